<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;

/**
 * Between the batches of all changes there are moments in which database and kept files agree. Whoever carries out a
 * batch passes here; a backup waits for such a moment, and keeps further batches waiting while it lasts.
 */
final readonly class StillMoment
{
    private const LOCK = 0x5957;

    private const PATIENCE = '5min';

    /**
     * @template T
     *
     * @param  callable(): T  $batch
     * @return T
     */
    public static function pass(callable $batch): mixed
    {
        DB::selectOne('select pg_advisory_lock_shared(?, 0)', [self::LOCK]);
        try {
            return $batch();
        } finally {
            DB::selectOne('select pg_advisory_unlock_shared(?, 0)', [self::LOCK]);
        }
    }

    /**
     * @template T
     *
     * @param  callable(): T  $look
     * @return T|null null where no such moment came
     */
    public static function take(callable $look): mixed
    {
        DB::statement("set lock_timeout = '".self::PATIENCE."'");
        try {
            DB::selectOne('select pg_advisory_lock(?, 0)', [self::LOCK]);
        } catch (QueryException $e) {
            return $e->getCode() === '55P03' ? null : throw $e;
        } finally {
            DB::statement('set lock_timeout = 0');
        }
        try {
            return $look();
        } finally {
            DB::selectOne('select pg_advisory_unlock(?, 0)', [self::LOCK]);
        }
    }
}
