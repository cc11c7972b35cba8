<?php

declare(strict_types=1);

/*
 * The installation as it stands on the machine: what its servers answer before the application is asked, as whom they
 * run, and what others can read of it.
 */

/** @return array{int, string, string} status, type and body of a raw request */
function raw(string $request): array
{
    $port = parse_url(test()->setting('APP_URL'), PHP_URL_PORT);
    $socket = fsockopen('127.0.0.1', (int) $port);
    stream_set_timeout($socket, 10);
    for ($at = 0; $at < strlen($request); $at += $written) {
        // It may have answered and hung up before all was said.
        $written = @fwrite($socket, substr($request, $at, 65_536));
        if ($written === false || $written === 0) {
            break;
        }
    }
    $answer = '';
    while (! feof($socket) && ! stream_get_meta_data($socket)['timed_out']) {
        $answer .= @fread($socket, 65_536);
    }
    [$head, $body] = explode("\r\n\r\n", $answer, 2) + [1 => ''];
    preg_match('~^HTTP/1.1 (\d+)~', $head, $status);
    preg_match('~^Content-Type: ([^\r\n]+)~mi', $head, $type);

    return [(int) ($status[1] ?? 0), $type[1] ?? '', $body];
}

it('answers in problems what never comes to the application', function (string $line, int $status, int $weight): void {
    $request = "$line\r\nHost: x\r\nConnection: close\r\n".($weight > 0 ? "Content-Length: $weight\r\n" : '')
        ."\r\n".str_repeat('a', min($weight, 100_000));
    [$got, $type, $body] = raw($request);
    expect([$got, $type])
        ->toBe([$status, 'application/problem+json'])
        ->and(json_decode($body, true))
        ->toHaveKeys(['type', 'title', 'status', 'detail']);
})->with([
    'a NUL' => ['GET /api/%00 HTTP/1.1', 400, 0],
    'an address that never ends' => ['GET /api/'.str_repeat('a', 20_000).' HTTP/1.1', 414, 0],
    'a query that never ends' => ['GET /api/session?'.str_repeat('a', 20_000).' HTTP/1.1', 414, 0],
    'a header that never ends' => ["GET /api/session HTTP/1.1\r\nX: ".str_repeat('a', 40_000), 414, 0],
    'more than an upload may weigh' => ['POST /api/sites/korrin-bay/uploads HTTP/1.1', 413, 60_000_000],
    'bytes that are no text' => ['GET /api/sites/%FF HTTP/1.0', 400, 0],
]);

it('runs as nobody who could do more than its work', function (): void {
    $var = getenv('YLEMA_VAR');
    foreach (['php-fpm', 'nginx'] as $server) {
        $pid = trim((string) file_get_contents("$var/run/$server.pid"));
        preg_match('~^Uid:\s+(\d+)\s+(\d+)~m', (string) file_get_contents("/proc/$pid/status"), $user);
        expect((int) $user[1])->toBeGreaterThan(0)->and((int) $user[2])->toBeGreaterThan(0);
    }
    foreach (['app', 'site'] as $socket) {
        expect(fileperms("$var/run/$socket.sock") & 0o777)->toBe(0o600);
    }
    foreach (['.env', 'run/php-fpm.conf', 'secrets'] as $secret) {
        // What stands in a folder that only its owner may enter is read by nobody else.
        $isOpen = (fileperms("$var/$secret") & 0o077) !== 0;
        expect($isOpen && (fileperms(dirname("$var/$secret")) & 0o077) !== 0)->toBeFalse($secret);
    }
});

it('names no password where all on the machine can read it', function (): void {
    $secrets = [self::setting('DB_PASSWORD'), self::setting('CONTENT_PASSWORD')];
    // Processes come and go while they are listed, which ps takes as it comes.
    $lines = explode("\n", trim((string) shell_exec('ps -e -ww -o args=')));
    foreach ($secrets as $secret) {
        expect(array_filter($lines, static fn (string $line): bool => str_contains($line, $secret)))->toBe([]);
    }
    expect(count($lines))->toBeGreaterThan(5);
});

it('shows pictures, and breaks no rule of its own policy', function (string $path): void {
    $this->signIn('maintainer');
    $this->visit($path);
    $this->await(
        fn (): bool => $this->driver()->executeScript(
            'const all = [...document.images].filter((p) => p.getBoundingClientRect().top < innerHeight);'
                .'return all.length > 5 && all.every((p) => p.complete && p.naturalWidth > 0);',
        ),
        'not all pictures are shown',
        60,
    );
    $broken = $this->driver()->executeAsyncScript(
        'const done = arguments[0], seen = []; new ReportingObserver((reports) => { for (const r of reports) '
            .'seen.push(r.type + " " + r.body.effectiveDirective); }, { buffered: true }).observe();'
            .'setTimeout(() => done(seen), 400);',
    );
    expect($broken)->toBe([]);
})->with(['/korrin-bay/media?as=sheet', '/korrin-bay/media', '/korrin-bay/places']);
