<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Ylema\Addresses\Outcome;
use Ylema\Addresses\OutcomeKind;

/**
 * One address that content names, resolved once for all references that name it.
 *
 * @property int $id
 * @property int $site_id
 * @property string $url
 * @property string|null $outcome see OutcomeKind
 * @property string|null $path the file served or meant
 * @property string|null $asked
 * @property list<string> $candidates
 * @property int|null $file_id
 * @property int|null $media_item_id
 * @property bool $leads whether visitors are led to it, rather than shown it
 * @property int|null $page_id the record whose address it is, where links lead to it
 * @property bool $sure whether what it means leaves one answer
 */
final class Address extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = ['candidates' => 'array'];

    public function sentence(): string
    {
        $kind = OutcomeKind::from((string) $this->outcome);

        return (new Outcome($kind, $this->path, $this->candidates, $this->asked))->sentence();
    }
}
