<?php

declare(strict_types=1);

namespace Tests\App\Kill;

use RuntimeException;

/** Starts tests/App/Kill/worker.php, and waits for its end. */
final class Worker
{
    /**
     * @param  string  $do what it is there for, and of what: "plan 17"
     * @param  int  $killAt the call before which it is killed; 0 for none
     * @return int|null how many calls changed something; null where it was killed
     */
    public static function run(string $do, int $killAt): ?int
    {
        $errors = (string) tempnam(sys_get_temp_dir(), 'kill');
        $worker = proc_open(
            [PHP_BINARY, '-d', 'opcache.enable_cli=1', __DIR__.'/worker.php'],
            [1 => ['pipe', 'w'], 2 => ['file', $errors, 'w']],
            $pipes,
            null,
            [
                ...getenv(),
                'APP_ENV' => 'testing',
                'CACHE_STORE' => 'array',
                'QUEUE_CONNECTION' => 'sync',
                'KILL_AT' => (string) $killAt,
                'KILL_DO' => $do,
            ],
        );
        $said = $worker === false ? '' : (string) stream_get_contents($pipes[1]);
        if ($worker !== false) {
            proc_close($worker);
        }
        $wrong = (string) file_get_contents($errors);
        unlink($errors);
        if ($wrong !== '' || ($said !== '' && ! ctype_digit($said))) {
            throw new RuntimeException("The worker said: $wrong$said");
        }

        return $said === '' ? null : (int) $said;
    }
}
