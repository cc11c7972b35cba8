<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

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
 * @property-read Record $record
 * @property-read Address|null $address
 */
final class MediaReference extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = ['context' => 'array'];

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
