<?php

declare(strict_types=1);

namespace App\Models;

use App\Support\WorkLock;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * One polite look at the public site.
 *
 * @property int $id
 * @property int $site_id
 * @property WorkState $state
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
    use WorksInTurns;

    private const LOCK = WorkLock::SURVEY;

    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = [
        'state' => WorkState::class,
        'totals' => 'array',
        'pages' => 'array',
        'deep' => 'boolean',
        'stop_asked' => 'boolean',
        'started_at' => 'datetime',
        'worked_at' => 'datetime',
        'finished_at' => 'datetime',
    ];
}
