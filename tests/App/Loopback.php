<?php

declare(strict_types=1);

namespace Tests\App;

use RuntimeException;

/** A server on loopback that answers as a script says; it ends with this object. */
final class Loopback
{
    private const TRIES = 20;

    public readonly int $port;

    /** @var resource */
    private $process;

    /** @param  array<string, string>  $environment */
    public function __construct(public readonly string $script, array $environment = [])
    {
        for ($try = 0; $try < self::TRIES; $try++) {
            $port = self::freePort();
            $process = proc_open(
                // What a test writes anew is run anew, however long ago it was run before.
                [PHP_BINARY, '-d', 'opcache.revalidate_freq=0', '-S', "127.0.0.1:$port", $script],
                [1 => ['file', '/dev/null', 'w'], 2 => ['file', '/dev/null', 'w']],
                $pipes,
                null,
                [...getenv(), ...$environment, 'PHP_CLI_SERVER_WORKERS' => '4'],
            );
            if ($process === false) {
                continue;
            }
            for ($i = 0; $i < 100 && proc_get_status($process)['running']; $i++) {
                // It is refused until the server is up, which no runner of tests need hear of.
                set_error_handler(static fn (): bool => true);
                $socket = fsockopen('127.0.0.1', $port);
                restore_error_handler();
                // Whoever answers is this server only if it runs still: one that found the port taken is gone.
                if ($socket !== false && fclose($socket) && proc_get_status($process)['running']) {
                    $this->port = $port;
                    $this->process = $process;

                    return;
                }
                usleep(30_000);
            }
            proc_terminate($process, SIGKILL);
            proc_close($process);
        }
        throw new RuntimeException('No server could be started on loopback.');
    }

    /**
     * A port that nobody listens at, told by the system: a guessed one may be that of another test, or of a connection
     * that is under way.
     */
    public static function freePort(): int
    {
        $socket = stream_socket_server('tcp://127.0.0.1:0')
            ?: throw new RuntimeException('No port is free on loopback.');
        $name = (string) stream_socket_get_name($socket, false);
        fclose($socket);

        return (int) substr($name, (int) strrpos($name, ':') + 1);
    }

    public function origin(): string
    {
        return "http://127.0.0.1:$this->port";
    }

    public function end(): void
    {
        $pid = proc_get_status($this->process)['pid'];
        // It may be about to make its workers, which would outlive it: held still, it makes none, and those that are
        // there can be counted.
        posix_kill($pid, SIGSTOP);
        // Held still only once the system says so: a worker that it was just making comes before that.
        for ($i = 0; $i < 200 && ! str_contains((string) shell_exec("ps -o stat= -p $pid"), 'T'); $i++) {
            usleep(5000);
        }
        foreach (explode("\n", trim((string) shell_exec("pgrep -P $pid"))) as $worker) {
            if ($worker !== '') {
                posix_kill((int) $worker, SIGKILL);
            }
        }
        proc_terminate($this->process, SIGKILL);
        proc_close($this->process);
    }
}
