<?php

declare(strict_types=1);

namespace App\Models;

use App\Support\WorkLock;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * One fetching of files from other hosts.
 *
 * @property int $id
 * @property int $site_id
 * @property WorkState $state
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
    use WorksInTurns;

    private const LOCK = WorkLock::ADOPTION;

    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = [
        'state' => WorkState::class,
        'hosts' => 'array',
        'totals' => 'array',
        'stop_asked' => 'boolean',
        'started_at' => 'datetime',
        'worked_at' => 'datetime',
        'finished_at' => 'datetime',
    ];
}
