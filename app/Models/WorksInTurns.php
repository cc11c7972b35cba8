<?php

declare(strict_types=1);

namespace App\Models;

use App\Support\Clock;
use App\Support\WorkLock;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A long work that workers do in turns, so that nothing else waits for long. Whoever has its lock works on it; it can
 * be stopped, and is taken up where it was. Its class says which lock, as `LOCK`.
 *
 * @property WorkState $state
 * @property array<string, int> $totals
 *
 * @phpstan-require-extends \Illuminate\Database\Eloquent\Model
 */
trait WorksInTurns
{
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

    public function stop(): void
    {
        self::open()->whereKey($this->id)->update(['stop_asked' => true]);
        // One that waits for a worker has nobody who would notice.
        if (WorkLock::isFree(self::LOCK, $this->id)) {
            self::query()
                ->whereKey($this->id)
                ->where('state', WorkState::Waiting)
                ->update(['state' => WorkState::Stopped]);
        }
    }

    /** It failed for a reason that is not the site's. */
    public static function halt(int $id, string $problem): void
    {
        self::open()->whereKey($id)->update(['state' => WorkState::Halted, 'problem' => $problem]);
    }

    /**
     * Those that a dead worker left. They count as worked on again from now on.
     *
     * @param  int  $seconds that a living worker may be silent
     * @return Collection<int, static>
     */
    public static function claimLeft(int $seconds, ?Site $site): Collection
    {
        $left = Clock::past(self::open(), 'worked_at', $seconds)
            ->when($site !== null, fn (Builder $q) => $q->where('site_id', $site?->id))
            ->get()
            ->filter(static fn (self $work): bool => WorkLock::isFree(self::LOCK, $work->id));
        $left->each(static fn (self $work): bool => $work->update(['worked_at' => now()]));

        return $left;
    }

    /** @return Builder<static> */
    private static function open(): Builder
    {
        return self::query()->whereIn('state', [WorkState::Waiting, WorkState::Running]);
    }
}
