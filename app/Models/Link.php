<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A link of a record to a page of the site; it shows nothing, so it is no use of media.
 *
 * @property int $id
 * @property int $site_id
 * @property int $record_id
 * @property string $field
 * @property int $start
 * @property int $length
 * @property string $value
 * @property string $role
 * @property int $line
 * @property string $path below the site's root, without a slash at either end
 * @property string $query
 * @property int|null $page_id the record whose address it is; null where the map knows none
 * @property-read Record $record
 */
final class Link extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    /** @return BelongsTo<Record, $this> */
    public function record(): BelongsTo
    {
        return $this->belongsTo(Record::class);
    }
}
