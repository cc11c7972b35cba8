<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * One write of a plan: the fields of one record, the bytes of one file, or a new media row.
 *
 * @property int $id
 * @property int $plan_id
 * @property int $position
 * @property string $target record, file or media-row
 * @property string|null $record_kind
 * @property string|null $record_key
 * @property string $title
 * @property string|null $before_hash null where there is nothing yet
 * @property string|null $after_hash
 * @property array<string, mixed> $detail
 * @property string|null $problem why this write cannot be made; such a write is left out
 */
final class PlanWrite extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = ['detail' => 'array'];
}
