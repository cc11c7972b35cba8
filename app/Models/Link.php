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
 * @property int $address_id
 * @property string|null $outcome see OutcomeKind
 * @property-read Record $record
 * @property-read Address $address
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

    /** @return BelongsTo<Address, $this> */
    public function address(): BelongsTo
    {
        return $this->belongsTo(Address::class);
    }
}
