<?php

declare(strict_types=1);

namespace Tests\Install;

use RuntimeException;
use Symfony\Component\Process\Process;

/**
 * A Debian of its own, made with debootstrap and booted with its systemd in a container (systemd-nspawn), with the
 * network of this machine. What it installs comes from where this machine gets its own packages.
 */
final class CleanServer
{
    private const BASE = '/var/tmp/ylema-clean-base';

    private const ROOT = '/var/tmp/ylema-clean-server';

    private ?Process $container = null;

    /** @param  string  $checkout is at /src there, only to be read */
    public function __construct(string $checkout)
    {
        $this->here(['rm', '-rf', self::ROOT]);
        if (! is_file(self::BASE.'/made')) {
            $this->here(['rm', '-rf', self::BASE]);
            $this->here([
                'debootstrap', '--variant=minbase', '--include=systemd,systemd-sysv,dbus,ca-certificates,openssl',
                'bookworm', self::BASE, self::mirror(),
            ], 900);
            touch(self::BASE.'/made');
        }
        $this->here(['cp', '--archive', self::BASE, self::ROOT], 300);
        @unlink(self::ROOT.'/etc/apt/sources.list');
        foreach (self::registries() as $setting) {
            $this->here(['mkdir', '-p', self::ROOT.dirname($setting)]);
            $this->here(['cp', '--recursive', '--dereference', '-T', $setting, self::ROOT.$setting]);
        }
        $this->container = new Process([
            'systemd-nspawn', '--quiet', '--register=no', '--keep-unit', "--bind-ro=$checkout:/src",
            '--console=pipe', '-D', self::ROOT, '--boot',
        ], null, null, null, null);
        $this->container->start();
        $until = time() + 60;
        do {
            usleep(500_000);
            [$code] = $this->leader() === null ? [1] : $this->run('systemctl is-system-running --wait');
        } while ($code !== 0 && time() < $until);
        $this->run('update-ca-certificates');
    }

    public function __destruct()
    {
        $leader = $this->leader();
        if ($leader !== null) {
            // What PID 1 takes as "power off" (systemd, SIGNALS).
            posix_kill($leader, 34 + 4);
        }
        for ($i = 0; $i < 60 && $this->container?->isRunning() === true; $i++) {
            usleep(500_000);
        }
        $this->container?->stop(2);
        $this->here(['rm', '-rf', self::ROOT]);
    }

    /** @return array{int, string} */
    public function run(string $command, int $seconds = 900): array
    {
        $process = new Process([
            'nsenter', '--target', (string) $this->leader(), '--mount', '--uts', '--ipc', '--pid', '--', 'env', '-i',
            'HOME=/root', 'LANG=C.UTF-8', 'PATH=/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin',
            'bash', '-c', "cd /root; $command",
        ], null, null, null, $seconds);
        $code = $process->run();

        return [$code, trim($process->getOutput().$process->getErrorOutput())];
    }

    private function leader(): ?int
    {
        $pid = $this->container?->getPid();
        $children = $pid === null ? '' : (string) @file_get_contents("/proc/$pid/task/$pid/children");

        return preg_match('~^\d+~', $children, $m) === 1 ? (int) $m[0] : null;
    }

    /** @return list<string> where this machine keeps what its package managers are told */
    private static function registries(): array
    {
        $home = (string) (posix_getpwuid(posix_geteuid())['dir'] ?? '');
        $apt = array_filter(
            glob('/etc/apt/apt.conf.d/*') ?: [],
            static fn (string $file): bool => str_contains((string) file_get_contents($file), 'Acquire'),
        );

        return array_values(array_filter([
            '/etc/apt/sources.list.d/debian.sources',
            '/etc/apt/sources.list',
            ...$apt,
            '/etc/npmrc',
            '/usr/etc/npmrc',
            "$home/.npmrc",
            "$home/.config/composer",
            '/usr/local/share/ca-certificates',
            '/etc/resolv.conf',
        ], file_exists(...)));
    }

    private static function mirror(): string
    {
        foreach (glob('/etc/apt/sources.list.d/debian.sources') ?: [] as $file) {
            if (preg_match('~^URIs:\s*(\S+)~m', (string) file_get_contents($file), $m) === 1) {
                return $m[1];
            }
        }
        $lines = (string) @file_get_contents('/etc/apt/sources.list');

        return preg_match('~^deb\s+(?:\[[^]]*\]\s*)?(\S+)\s+bookworm\s~m', $lines, $m) === 1
            ? $m[1]
            : throw new RuntimeException('Where this machine gets its packages is not known.');
    }

    /** @param  list<string>  $command */
    private function here(array $command, int $seconds = 120): void
    {
        (new Process($command, null, null, null, $seconds))->mustRun();
    }
}
