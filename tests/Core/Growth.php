<?php

declare(strict_types=1);

namespace Tests\Core;

use Closure;

/** How the cost of some work grows with the size of what it is given. */
final class Growth
{
    private const ROUNDS = 5;

    /** Milliseconds below which a clock tells nothing. */
    private const FLOOR = 2.0;

    /**
     * How many times as much a work costs at the large size as at the small one, in processor time of this process
     * alone: what else the machine does is not counted. The best of some rounds, and no more of them than are needed
     * to come below the limit, since a disturbed round can only be slower.
     *
     * @param  Closure(int): Closure  $prepare of a size, the work to be measured
     */
    public static function ratio(Closure $prepare, int $small, int $large, float $limit): float
    {
        $works = [$prepare($small), $prepare($large)];
        $best = [INF, INF];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            foreach ($works as $i => $work) {
                $start = self::milliseconds();
                $work();
                $best[$i] = min($best[$i], self::milliseconds() - $start);
            }
            if ($limit > $best[1] / max(self::FLOOR, $best[0])) {
                break;
            }
        }

        return $best[1] / max(self::FLOOR, $best[0]);
    }

    /** Seconds of processor time of this process since it began, whatever else the machine does. */
    public static function spent(): float
    {
        return self::milliseconds() / 1e3;
    }

    private static function milliseconds(): float
    {
        $usage = getrusage();

        return ($usage['ru_utime.tv_sec'] + $usage['ru_stime.tv_sec']) * 1e3
            + ($usage['ru_utime.tv_usec'] + $usage['ru_stime.tv_usec']) / 1e3;
    }
}
