<?php

declare(strict_types=1);

namespace App\Backup;

use Symfony\Component\Process\Process;

/** A program of the system that takes part in a backup. No password stands among its arguments. */
final readonly class Tool
{
    /**
     * @param  list<string>  $command
     * @return string what it said
     *
     * @throws BackupTrouble with what it said, where it failed
     */
    public static function run(string $what, array $command, mixed $input = null): string
    {
        // Not where the command was called: that folder may be closed to this user.
        $process = new Process($command, '/', ['LC_ALL' => 'C', ...self::database()], $input, null);
        $process->run();
        if (! $process->isSuccessful()) {
            throw BackupTrouble::step($what, $process->getErrorOutput());
        }

        return $process->getOutput();
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
