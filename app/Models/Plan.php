<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * A list of writes that is proposed; nothing of it is done yet.
 *
 * @property int $id
 * @property int $site_id
 * @property string $kind swap
 * @property string $state open, applied or dropped
 * @property string $title
 * @property array<string, mixed> $request what was asked for, so that it can be planned again
 * @property array<string, mixed> $summary
 * @property int|null $made_by
 * @property Carbon $created_at
 * @property-read Site $site
 */
final class Plan extends Model
{
    protected $guarded = [];

    /** @var array<string, string> */
    protected $casts = ['request' => 'array', 'summary' => 'array'];

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    /** @return HasMany<PlanWrite, $this> */
    public function writes(): HasMany
    {
        return $this->hasMany(PlanWrite::class);
    }
}
