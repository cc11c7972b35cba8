<?php

declare(strict_types=1);

use Symfony\Component\Process\Process;

/*
 * What bin/install refuses, before it does anything. The whole of it on a clean Debian is tests/Install.
 */

/** @return array{int, string} */
function install(string ...$options): array
{
    $process = new Process([dirname(__DIR__, 2).'/bin/install', ...$options]);

    return [$process->run(), trim($process->getErrorOutput().$process->getOutput())];
}

it('says what is missing or wrong in what it was told', function (string $says, string ...$options): void {
    [$code, $said] = install(...$options);
    expect($code)->toBe(1)->and($said)->toContain($says)->and(substr_count($said, "\n"))->toBe(0);
})->with([
    ['say where people will reach it'],
    ['--address needs a value', '--address'],
    ['takes a host of its own', '--address', 'ylema.example'],
    ['with no path', '--address=https://example.org/ylema', '--owner=a@example.org'],
    ['would carry passwords in the open', '--address=http://ylema.example', '--owner=a@example.org'],
    ['say who owns it', '--address=https://ylema.example'],
    ['--owner takes an e-mail address', '--address=https://ylema.example', '--owner=ada'],
    ['an address and a port', '--address=https://ylema.example', '--owner=a@example.org', '--listen=8140'],
    ['a number from 1 to 99', '--address=https://ylema.example', '--owner=a@example.org', '--workers=many'],
    ['without the password', '--address=https://ylema.example', '--owner=a@b', '--database=postgresql://u:p@h/n'],
    ['by its whole path', '--address=https://ylema.example', '--owner=a@example.org', '--backups=here'],
    ['folders by their whole paths', '--address=https://ylema.example', '--owner=a@b', '--sites=srv'],
    ['go together', '--address=https://ylema.example', '--owner=a@example.org', '--key=/etc/hostname'],
    ['no line ends', '--address', "https://ylema.example\nX=1"],
    ['does not know "--colour=blue"', '--colour=blue'],
]);

it('shuts in what it starts', function (string $unit): void {
    $filled = strtr((string) file_get_contents(dirname(__DIR__, 2)."/etc/server/$unit"), [
        '@ROOT@' => '/opt/ylema/now', '@VAR@' => '/var/lib/ylema', '@CREDENTIALS@' => '',
        '@SITES@' => '-/srv -/var/www -/home', '@BACKUPS@' => '-/var/backups/ylema',
    ]);
    $folder = sys_get_temp_dir().'/'.bin2hex(random_bytes(6));
    mkdir($folder);
    $file = "$folder/".str_replace('@.', '@1.', $unit);
    file_put_contents($file, $filled);
    $asked = new Process(['systemd-analyze', 'security', '--offline=true', '--no-pager', '--threshold=30', $file]);
    $code = $asked->run();
    unlink($file);
    rmdir($folder);
    expect($code)->toBe(0, substr($asked->getOutput(), -300).$asked->getErrorOutput());
})->with(['ylema-web.service', 'ylema-php.service', 'ylema-schedule.service', 'ylema-worker@.service'])
    ->skip(! is_executable('/usr/bin/systemd-analyze'), 'Nothing here can judge units (systemd-analyze is missing).');

it('judges a certificate before it stands in its way', function (string $says, string $subject, int $days): void {
    $folder = sys_get_temp_dir().'/'.bin2hex(random_bytes(6));
    mkdir($folder);
    foreach (['one' => $days, 'two' => 3] as $name => $for) {
        (new Process([
            'openssl', 'req', '-x509', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:P-256', '-nodes', '-subj',
            "/CN=$subject", '-addext', "subjectAltName=DNS:$subject", '-days', (string) $for,
            '-keyout', "$folder/$name.key", '-out', "$folder/$name.pem",
        ]))->mustRun();
    }
    $key = str_contains($says, 'is not the key') ? 'two' : 'one';
    if ($subject === 'no.pem') {
        file_put_contents("$folder/one.pem", 'no certificate');
    }
    [$code, $said] = install(
        '--address=https://ylema.example',
        '--owner=a@example.org',
        "--certificate=$folder/one.pem",
        "--key=$folder/$key.key",
    );
    shell_exec('rm -r '.escapeshellarg($folder));
    expect($code)->toBe(1)->and($said)->toContain($says);
})->with([
    ['is not for ylema.example', 'other.example', 3],
    ['is not the key of', 'ylema.example', 3],
    ['is no certificate in PEM', 'no.pem', 3],
]);
