<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * One fetching of files from other hosts.
 *
 * @property int $id
 * @property int $site_id
 * @property SurveyState $state
 * @property list<string> $hosts
 * @property int $after_id the address that was fetched last
 * @property int $expected how many there were at its beginning
 * @property array<string, int> $totals
 * @property bool $stop_asked
 * @property string|null $problem
 * @property int|null $started_by
 * @property Carbon $started_at
 * @property Carbon $worked_at
 * @property Carbon|null $finished_at
 * @property-read Site $site
 */
final class Adoption extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = [
        'state' => SurveyState::class,
        'hosts' => 'array',
        'totals' => 'array',
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
