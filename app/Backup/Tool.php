<?php

declare(strict_types=1);

namespace App\Backup;

use Symfony\Component\Process\Exception\ProcessSignaledException;
use Symfony\Component\Process\Process;

/** A program of the system that takes part in a backup. No password stands among its arguments. */
final readonly class Tool
{
    /**
     * @param  list<string>  $command
     * @param  resource|null  $to where what it says goes; else it is handed back
     *
     * @throws BackupTrouble with what it said, where it failed
     */
    public static function run(string $what, array $command, mixed $to = null): string
    {
        // Not where the command was called: that folder may be closed to this user.
        $process = new Process($command, '/', ['LC_ALL' => 'C', ...self::database()], null, null);
        $said = $trouble = '';
        $listen = static function (string $kind, string $bytes) use ($what, $to, &$said, &$trouble): void {
            if ($kind === Process::ERR) {
                $trouble .= $bytes;
            } elseif ($to === null) {
                $said .= $bytes;
            } elseif (@fwrite($to, $bytes) !== strlen($bytes)) {
                throw BackupTrouble::step($what, 'what it is passed on to took no more of it.');
            }
        };
        try {
            $process->disableOutput()->run($listen);
        } catch (ProcessSignaledException $e) {
            $signal = $e->getSignal();
            throw BackupTrouble::step(
                $what,
                $signal === SIGXFSZ
                    ? 'this user may not write files as large as that (ulimit -f).'
                    : "it was ended from outside (signal $signal).",
            );
        }
        if (! $process->isSuccessful()) {
            throw BackupTrouble::step($what, $trouble);
        }

        return $said;
    }

    /** @return array<string, string> as the programs of PostgreSQL read it (libpq, Environment Variables) */
    private static function database(): array
    {
        $said = [];
        foreach (
            [
                'PGHOST' => 'host',
                'PGPORT' => 'port',
                'PGDATABASE' => 'database',
                'PGUSER' => 'username',
                'PGPASSWORD' => 'password',
            ] as $name => $key
        ) {
            $value = config("database.connections.pgsql.$key");
            $said[$name] = is_scalar($value) ? (string) $value : '';
        }

        return $said;
    }
}
