<?php

declare(strict_types=1);

use Tests\Install\CleanServer;

/*
 * bin/install on a Debian that has nothing: from the first owner to the last byte that is taken off again.
 */

const INSTALL = '/src/bin/install --address https://ylema.hollin.example --owner ada@hollin.example';
const PLAIN = INSTALL.' --listen 127.0.0.1:8940 --workers 2';

beforeAll(function (): void {
    $GLOBALS['server'] = new CleanServer(dirname(__DIR__, 2));
});
afterAll(function (): void {
    unset($GLOBALS['server']);
    gc_collect_cycles();
});

/** Runs there, and must succeed. */
function there(string $command): string
{
    [$code, $says] = $GLOBALS['server']->run($command);
    expect($code)->toBe(0, "$command\n$says");

    return $says;
}

/** As the proxy asks that speaks https for it. */
function proxied(string $path, string $more = ''): string
{
    return there(
        "curl -sS -i -H 'Host: ylema.hollin.example' -H 'X-Forwarded-Proto: https' -H 'Accept: application/json' "
            ."$more http://127.0.0.1:8940$path",
    );
}

it('sets up, and lets the first owner in', function (): void {
    $says = there(PLAIN);
    expect($says)->toContain('Ylema runs: https://ylema.hollin.example/')
        ->and(there('systemctl is-active ylema-php ylema-web ylema-schedule ylema-worker@1 ylema-worker@2'))
        ->not->toContain('inactive')
        // What Debian starts with its packages would have taken ports and memory for nothing.
        ->and($GLOBALS['server']->run('systemctl is-active nginx php8.2-fpm')[1])->toBe("inactive\ninactive")
        ->and(there("ps -eo user:12,args | grep -E 'artisan|php-fpm|nginx' | grep -v grep | grep -vc '^ylema' || true"))
        ->toBe('0');
    preg_match('~#email=([^&]+)&token=(\w+)~', $says, $m);
    $page = proxied('/');
    expect($page)->toContain('secure; httponly');
    preg_match('~csrf-token" content="([^"]+)~', $page, $csrf);
    preg_match_all('~^set-cookie: ([^;]+)~mi', $page, $cookies);
    $body = json_encode(['email' => urldecode($m[1]), 'token' => $m[2], 'password' => 'a long new password']);
    $cookie = implode('; ', $cookies[1]);
    $answer = proxied('/api/welcome', "-H 'Cookie: $cookie' -H 'X-CSRF-TOKEN: {$csrf[1]}' "
        ."-H 'Content-Type: application/json' -d '$body'");
    expect($answer)->toContain('204 No Content')->and(there('ylema person'))->not->toContain('(invited)');
});

it('connects a site, reads it, and works on after a worker is killed', function (): void {
    there('cp -r /src/tests/Install/site /srv/site && chown -R ylema: /srv/site');
    there('ylema connect /src/tests/Install/site.yaml --no-interaction && ylema read lane');
    expect(there('ylema uses lane media/boat.png'))->toContain('is live');
    there('systemctl kill -s KILL ylema-worker@1 && sleep 5');
    expect(there('systemctl is-active ylema-worker@1'))->toBe('active')
        ->and(there('ylema site lane --writes=yes'))->toContain('lane');
    expect(there('ylema swap lane media/boat.png media/heron.png'))->not->toBe('');
    expect(there('cat /srv/site/index.html'))->toContain('media/heron.png')
        ->and(there('stat -c %U /srv/site/index.html'))->toBe('ylema');
});

it('upgrades by being run again, with a backup of before', function (): void {
    $before = there('readlink /opt/ylema/now');
    $says = there('/src/bin/install');
    expect($says)->toContain('Writing a backup')->not->toContain('link lets them choose')
        ->and(there('readlink /opt/ylema/now'))->not->toBe($before)
        ->and(there('ls /var/backups/ylema'))->toContain('before-')
        ->and(there('stat -c %a /var/backups/ylema/*.tar'))->toBe('600')
        ->and(there('ylema sites'))->toContain('lane');
    there('curl -fsS http://127.0.0.1:8940/up');
    // Away while the database is brought up to date, and not while workers end their jobs.
    expect(preg_match('~It was away for (\d+) seconds~', $says, $m))->toBe(1, $says)
        ->and((int) $m[1])->toBeLessThan(20);
});

it('shuts its services in, and makes systemd and nginx warn of nothing', function (): void {
    foreach (['web', 'php', 'schedule', 'worker@1'] as $unit) {
        there("systemd-analyze security --no-pager --threshold=30 ylema-$unit.service >/dev/null");
    }
    $units = implode(' ', array_map(
        static fn (string $unit): string => "/etc/systemd/system/ylema$unit",
        ['.target', '-web.service', '-php.service', '-schedule.service', '-worker@1.service'],
    ));
    there('ln -s ylema-worker@.service /etc/systemd/system/ylema-worker@1.service');
    expect(there("systemd-analyze verify $units 2>&1 | grep -i ylema || true"))->toBe('')
        // But for the worker that was killed above.
        ->and(there("journalctl -q -b -o cat -p warning -u 'ylema-*' | grep -vE \"9/KILL|result 'signal'\" || true"))
        ->toBe('')
        ->and(there("journalctl -q -b -o cat -u ylema-web | grep -iE 'warn|emerg|alert' || true"))->toBe('');
    there('rm /etc/systemd/system/ylema-worker@1.service');
    expect(there('systemctl show -P ProtectSystem ylema-worker@1 ylema-php ylema-web ylema-schedule | sort -u | xargs'))
        ->toBe('strict');
});

it('puts the former release back to work when an upgrade fails', function (): void {
    $before = there('readlink /opt/ylema/now');
    $left = '--exclude=./var --exclude=./node_modules --exclude=./vendor';
    there("mkdir broken && tar -C /src $left -c . | tar -C broken -x");
    $migration = 'broken/database/migrations/2099_01_01_000000_broken.php';
    there("cat >$migration <<'PHP'
        <?php return new class extends Illuminate\\Database\\Migrations\\Migration {
            public function up(): void { Illuminate\\Support\\Facades\\DB::statement('select nothing from nowhere'); }
        };\nPHP");
    [$code, $says] = $GLOBALS['server']->run('broken/bin/install');
    expect($code)->toBe(1)->and($says)->toContain('The former release is at work again')
        ->and(there('readlink /opt/ylema/now'))->toBe($before);
    there('for i in $(seq 30); do curl -fsS http://127.0.0.1:8940/up && exit 0; sleep 1; done; exit 1');
});

it('takes a backup back', function (): void {
    there('ylema backup /var/backups/ylema/one.tar');
    there('ylema swap lane media/heron.png media/boat.png');
    [$code, $says] = $GLOBALS['server']->run('ylema from-backup /var/backups/ylema/one.tar --over');
    expect($code)->toBe(4)->and($says)->toContain('systemctl stop ylema.target');
    there('systemctl stop ylema.target && ylema from-backup /var/backups/ylema/one.tar --over');
    there('systemctl start ylema.target && ylema read lane');
    expect(there('ylema uses lane media/boat.png'))->toContain('is live');
});

it('speaks https by itself, and takes up a renewed certificate', function (): void {
    $make = 'openssl req -x509 -newkey rsa:2048 -nodes -days 3 -subj /CN=ylema.hollin.example '
        .'-addext subjectAltName=DNS:ylema.hollin.example -keyout /etc/ssl/y.key -out /etc/ssl/y.pem '
        .'&& chmod 600 /etc/ssl/y.key';
    there($make);
    [$code, $says] = $GLOBALS['server']->run(
        '/src/bin/install --certificate /etc/ssl/y.pem --key /etc/ssl/private/no.key',
    );
    expect($code)->toBe(1)->and($says)->toContain('is not there');
    there('/src/bin/install --certificate /etc/ssl/y.pem --key /etc/ssl/y.key');
    $ask = 'curl -sS -i --cacert /etc/ssl/y.pem --resolve ylema.hollin.example:443:127.0.0.1 '
        .'--resolve ylema.hollin.example:80:127.0.0.1';
    expect(there("$ask https://ylema.hollin.example/"))->toContain('200')->toContain('secure; httponly')
        ->and(there("$ask http://ylema.hollin.example/lane/desk"))
        ->toContain('308')->toContain('Location: https://ylema.hollin.example/lane/desk');
    there($make);
    there("for i in $(seq 30); do $ask https://ylema.hollin.example/up && exit 0; sleep 1; done; exit 1");
});

it('is taken off again', function (): void {
    $how = there('/src/bin/install --how-to-remove');
    preg_match_all('~^  ((?:systemctl|rm|runuser|userdel) .*?)(?:    \(.*)?$~m', $how, $m);
    expect($m[1])->toHaveCount(7);
    foreach ($m[1] as $command) {
        there($command);
    }
    expect(there('ls -d /opt/ylema /etc/ylema /var/lib/ylema /usr/local/bin/ylema 2>/dev/null || true'))->toBe('')
        ->and(there("systemctl list-unit-files 'ylema*' --no-legend || true"))->toBe('')
        ->and(there('ps -u ylema --no-headers 2>/dev/null || true'))->toBe('');
});
