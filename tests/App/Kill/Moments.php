<?php

declare(strict_types=1);

namespace Tests\App\Kill;

use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Event;
use PDOStatement;

/**
 * Counts, in a process that is there to be killed, the calls that change something: in the file system, in Ylema's
 * database, in the site's own; and kills it right before the n-th.
 *
 * A function that is called by its bare name is looked for in the namespace of whoever calls it first (PHP, name
 * resolution), so those are put there. The few lines that reach a site's database are read with the count put before.
 */
final class Moments
{
    /** Whoever writes or moves bytes; tests/App/KillTest.php holds this list against the code. */
    public const ROOMS = ['App\Bytes', 'App\Sites', 'App\Rest', 'App\Vault', 'App\Archive', 'App\Changes\Executors',
        'League\Flysystem\Local', 'Illuminate\Filesystem'];

    public const CALLS = ['rename', 'unlink', 'mkdir', 'rmdir', 'link', 'symlink', 'touch', 'chmod', 'chown', 'chgrp',
        'fopen', 'fwrite', 'fsync', 'ftruncate', 'file_put_contents', 'stream_copy_to_stream', 'copy'];

    private static int $at = 0;

    public static int $count = 0;

    /** Before anything of these rooms is loaded. */
    public static function watch(int $killAt): void
    {
        self::$at = $killAt;
        foreach (self::ROOMS as $room) {
            foreach (self::CALLS as $call) {
                eval("namespace $room; function $call(...\$a) { "
                    .'\\'.self::class."::next(); return \\$call(...\$a); }");
            }
        }
        spl_autoload_register(static function (string $class): void {
            if (str_starts_with($class, 'App\Sites\\')) {
                $file = dirname(__DIR__, 3).'/app/'.strtr(substr($class, 4), '\\', '/').'.php';
                $code = (string) @file_get_contents($file);
                $me = '\\'.self::class;
                $code = preg_replace('~(?<![\w>])\$statement->execute\(~', "$me::statement(\$statement) && $0", $code);
                $commit = '~(?<![\w>])\$pdo->(?:commit\(|exec\(\'commit)~';
                $code = preg_replace($commit, "$me::next() && $0", (string) $code);
                eval(substr((string) $code, 5));
            }
        }, prepend: true);
    }

    /** Once there is an application. */
    public static function watchDatabase(): void
    {
        DB::connection()->beforeExecuting(static fn (string $sql) => self::sql($sql));
        Event::listen(
            \Illuminate\Database\Events\TransactionCommitting::class,
            static fn () => self::next(),
        );
    }

    public static function statement(PDOStatement $statement): true
    {
        return self::sql($statement->queryString);
    }

    public static function next(): true
    {
        if (++self::$count === self::$at) {
            posix_kill((int) getmypid(), SIGKILL);
        }

        return true;
    }

    private static function sql(string $sql): true
    {
        return preg_match('~^\s*\(?(?:insert|update|delete|with|copy)~i', $sql) === 1 ? self::next() : true;
    }
}
