<?php

declare(strict_types=1);

namespace Tests\App\Sources;

use RuntimeException;
use Symfony\Component\Process\Process;
use Tests\App\Loopback;

/** OpenSSH on loopback, for files only; it lets in whoever runs the tests, by a key. */
final readonly class SshServer
{
    private Process $server;

    private int $port;

    private string $fingerprint;

    /** @param  string  $folder in which keys and settings are kept */
    public function __construct(private string $folder)
    {
        foreach (['host', 'user'] as $name) {
            (new Process(['ssh-keygen', '-q', '-t', 'ed25519', '-N', '', '-f', "$folder/$name"]))->mustRun();
        }
        copy("$folder/user.pub", "$folder/known");
        $this->port = Loopback::freePort();
        file_put_contents("$folder/sshd.conf", <<<CONF
            Port $this->port
            ListenAddress 127.0.0.1
            HostKey $folder/host
            AuthorizedKeysFile $folder/known
            PidFile none
            StrictModes no
            UsePAM no
            PasswordAuthentication no
            Subsystem sftp internal-sftp
            ForceCommand internal-sftp
            CONF);
        // Root's own sshd separates its rights into this folder, which a system that never started one lacks.
        if (posix_geteuid() === 0 && ! is_dir('/run/sshd')) {
            mkdir('/run/sshd', 0o755);
        }
        $this->server = new Process(['/usr/sbin/sshd', '-D', '-e', '-f', "$folder/sshd.conf"]);
        $this->server->setTimeout(null)->start();
        for ($i = 0; $i < 100 && ! $this->answers(); $i++) {
            usleep(50_000);
        }
        $print = (new Process(['ssh-keygen', '-lf', "$folder/host.pub"]))->mustRun()->getOutput();
        $this->fingerprint = preg_match('~SHA256:\S+~', $print, $m) === 1 ? $m[0] : throw new RuntimeException($print);
    }

    /** @return array<string, scalar> as a settings file says it */
    public function said(string $folder): array
    {
        return [
            'host' => '127.0.0.1',
            'port' => $this->port,
            'user' => (string) (posix_getpwuid(posix_geteuid())['name'] ?? ''),
            'key_file' => "$this->folder/user",
            'fingerprint' => $this->fingerprint,
            'folder' => $folder,
        ];
    }

    public function end(): void
    {
        $this->server->stop(1);
    }

    private function answers(): bool
    {
        set_error_handler(static fn (): bool => true);
        $socket = fsockopen('127.0.0.1', $this->port);
        restore_error_handler();

        return $socket !== false && fclose($socket);
    }
}
