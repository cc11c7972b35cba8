<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * One polite look at the public site.
 *
 * @property int $id
 * @property int $site_id
 * @property SurveyState $state
 * @property string $stage pages, media, links or end
 * @property int $after_id what was asked last in this stage
 * @property array<string, int> $totals
 * @property list<int>|null $pages the records that are asked for; null for all pages
 * @property bool $deep whether pages are looked at in a browser, too
 * @property bool $stop_asked
 * @property string|null $problem
 * @property int|null $started_by
 * @property int|null $change_id the change after which it looks
 * @property Carbon $started_at
 * @property Carbon $worked_at
 * @property Carbon|null $finished_at
 * @property-read Site $site
 */
final class Survey extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = [
        'state' => SurveyState::class,
        'totals' => 'array',
        'pages' => 'array',
        'deep' => 'boolean',
        'stop_asked' => 'boolean',
        'started_at' => 'datetime',
        'worked_at' => 'datetime',
        'finished_at' => 'datetime',
    ];

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    /** What it counted under a name. */
    public function total(string $name): int
    {
        return $this->totals[$name] ?? 0;
    }
}
