<?php

declare(strict_types=1);

namespace App\Health;

use App\Support\Clock;
use Illuminate\Support\Facades\DB;
use Throwable;

/** Signs of life of the processes of an installation. They never keep one from its work. */
final class Beats
{
    public const SCHEDULE = 'schedule';

    public const BACKUP = 'backup';

    /** Seconds between two signs of a worker that waits. */
    private const EVERY = 15;

    private static ?int $last = null;

    public static function of(string $name, ?string $doing = null): void
    {
        try {
            DB::insert(
                <<<'SQL'
                insert into beats (name, doing, since, beat_at) values (?, ?, now(), now())
                on conflict (name) do update set beat_at = now(), doing = excluded.doing,
                    since = case when beats.doing is not distinct from excluded.doing then beats.since else now() end
                SQL
                ,
                [mb_strcut($name, 0, 120), $doing],
            );
        } catch (Throwable) {
            // Whoever works with the database says it in better words.
        }
    }

    /** A worker that waits for work says so now and then, one that works at its beginning and end. */
    public static function ofWorker(?string $job, bool $isIdle): void
    {
        if ($isIdle && self::$last !== null && Clock::seconds() - self::$last < self::EVERY) {
            return;
        }
        self::$last = $isIdle ? Clock::seconds() : null;
        self::of('worker '.gethostname().' '.getmypid(), $job);
    }

    /** Of processes that ended long ago nobody needs to know. */
    public static function clear(): void
    {
        DB::table('beats')->where('name', 'like', 'worker %')->where('beat_at', '<', now()->subDay())->delete();
    }
}
