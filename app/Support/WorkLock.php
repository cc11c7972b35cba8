<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * Marks "somebody works on this": a session lock of PostgreSQL, which lets go of it by itself when the process that
 * holds it is killed or loses its connection. So it can also be asked whether it is still held.
 */
final readonly class WorkLock
{
    public const CHANGE = 0x594C;

    public const READING = 0x594D;

    public const CHUNK = 0x594E;

    public const PLAN = 0x594F;

    public const FOLLOW_UP = 0x5950;

    public const CLEARING = 0x5951;

    public const SURVEY = 0x5952;

    public const ADOPTION = 0x5953;

    public const LOG = 0x5954;

    public const ARCHIVE = 0x5955;

    public const LOOKS = 0x5956;

    public const DRAFT = 0x5957;

    private function __construct(private int $space, private int $id)
    {
    }

    /** @return self|null null while somebody else holds it */
    public static function take(int $space, int $id): ?self
    {
        $row = DB::selectOne('select pg_try_advisory_lock(?, ?) as got', [$space, $id]);

        return $row instanceof stdClass && $row->got === true ? new self($space, $id) : null;
    }

    /** Whether nobody at all holds it: who worked there is finished, or dead. */
    public static function isFree(int $space, int $id): bool
    {
        return DB::selectOne(
            "select 1 as held from pg_locks where locktype = 'advisory' and classid = ? and objid = ? and objsubid = "
                .'2 and granted and database = (select oid from pg_database where datname = current_database())',
            [$space, $id],
        ) === null;
    }

    /** Whether this very connection holds it still: a connection that was lost and made anew does not. */
    public function isHeld(): bool
    {
        return DB::selectOne(
            "select 1 as held from pg_locks where locktype = 'advisory' and classid = ? and objid = ? and objsubid = "
                .'2 and granted and pid = pg_backend_pid()',
            [$this->space, $this->id],
        ) !== null;
    }

    public function release(): void
    {
        DB::selectOne('select pg_advisory_unlock(?, ?)', [$this->space, $this->id]);
    }
}
