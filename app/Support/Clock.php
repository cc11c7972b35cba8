<?php

declare(strict_types=1);

namespace App\Support;

use Carbon\CarbonInterface;
use Illuminate\Contracts\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Clocks are set, forth and back. A moment that was written down and lies in the future tells nothing of how long ago
 * it was: it counts as long ago, and locks, which know no time, say whether somebody still works. What is measured
 * within one process goes by the clock that is never set.
 */
final class Clock
{
    /** Seconds by which two machines may differ. */
    private const APART = 60;

    /** Seconds that a job may wait before it is tried; none of Ylema's waits longer than a minute. */
    private const LONGEST = 600;

    /** Seconds since some moment, never set (clock_gettime(2), CLOCK_MONOTONIC). */
    public static function seconds(): int
    {
        return intdiv((int) hrtime(true), 1_000_000_000);
    }

    /**
     * Rows of which a moment is more than so many seconds ago.
     *
     * @template T of Builder
     *
     * @param  T  $query
     * @return T
     */
    public static function past(Builder $query, string $column, int $seconds): Builder
    {
        $query->where(static fn (Builder $either) => $either
            ->where($column, '<', now()->subSeconds($seconds))
            ->orWhere($column, '>', now()->addSeconds(self::APART)));

        return $query;
    }

    public static function isPast(?CarbonInterface $moment, int $seconds): bool
    {
        return $moment === null || $moment->lt(now()->subSeconds($seconds))
            || $moment->gt(now()->addSeconds(self::APART));
    }

    /** @return int seconds between a moment and now; many where it lies in the future */
    public static function ago(int $at): int
    {
        return $at > time() + self::APART ? PHP_INT_MAX : max(0, time() - $at);
    }

    /** Jobs that wait for a moment that a clock has moved far away are tried now. */
    public static function mendJobs(): int
    {
        return DB::table('jobs')->whereNull('reserved_at')->where('available_at', '>', time() + self::LONGEST)
            ->update(['available_at' => time()])
            + DB::table('jobs')->where('reserved_at', '>', time() + self::APART)->update(['reserved_at' => time()]);
    }
}
