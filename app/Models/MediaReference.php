<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Ylema\Addresses\Outcome;
use Ylema\Addresses\OutcomeKind;

/**
 * @property int $id
 * @property int $site_id
 * @property int $record_id
 * @property string $field
 * @property int $start
 * @property int $length
 * @property string $value
 * @property string $names
 * @property string $role
 * @property string $fetch
 * @property string $layers
 * @property int $line
 * @property int $col
 * @property array<string, mixed> $context
 * @property string|null $target_kind
 * @property int|null $target_record_id
 * @property int|null $address_id
 * @property int|null $media_item_id
 * @property string|null $outcome what came of following it; see OutcomeKind
 * @property-read Record $record
 * @property-read Address|null $address
 */
final class MediaReference extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = ['context' => 'array'];

    /** @var array<string, mixed>|null */
    private ?array $around = null;

    /**
     * What stands around it, decoded once: a cast decodes at every look, and a plan looks at ten thousand of them.
     *
     * @return array<string, mixed>
     */
    public function around(): array
    {
        return $this->around ??= $this->context;
    }

    public function outcomeKind(): OutcomeKind
    {
        return OutcomeKind::tryFrom((string) $this->outcome) ?? OutcomeKind::Found;
    }

    /** What came of following it, as a sentence; null where that needs none. */
    public function sentence(): ?string
    {
        return $this->address?->sentence()
            ?? ($this->outcomeKind()->isFinding()
                ? (new Outcome($this->outcomeKind(), asked: $this->value))->sentence()
                : null);
    }

    /** @return BelongsTo<Record, $this> */
    public function record(): BelongsTo
    {
        return $this->belongsTo(Record::class);
    }

    /** @return BelongsTo<Address, $this> */
    public function address(): BelongsTo
    {
        return $this->belongsTo(Address::class);
    }
}
