<?php

declare(strict_types=1);

use Symfony\Component\Process\Process;
use Tests\App\Loopback;
use Ylema\Addresses\PageResolver;
use Ylema\Redirects\Entry;
use Ylema\Redirects\Format;

/*
 * What is handed to a web server is asked of that web server: every old address, in four spellings.
 */

/** Names as they lie on old disks. */
const ODD_NAMES = [
    'old/page', 'a b.jpg', ' lead.jpg', 'trail .jpg', 'a  b.jpg', 'Möwe am Kai.jpg', "Mo\u{308}we.jpg", '海豹.jpg',
    'портрет.png',
    '100%.jpg', 'per%cent.jpg', 'a%20b.jpg', 'a#b.jpg', 'a+b.jpg', 'a&b=c.jpg', 'a;b.jpg', 'a,b.jpg', "it's.jpg",
    'say "x".jpg',
    'a$b.jpg', 'a$1.jpg', '$uri.jpg', '${x}.jpg', '~tilde.jpg', '^caret.jpg', 'a\\b.jpg', 'a\\n.jpg', '(1).jpg',
    '[2].jpg', '{3}.jpg',
    'a|b.jpg', 'a<b>.jpg', 'a:b.jpg', 'a@b.jpg', 'a!b.jpg', 'a*b.jpg', 'a=b.jpg', '`a`.jpg', 'default', '.hidden',
    'what?.jpg', 'a?b=c.jpg', '?', 'a%3Fb.jpg', 'a%253Fb.jpg', '100%3F?.jpg', 'q?%3Fx',
    'UPPER.jpg', 'upper.jpg', 'Upper.JPG', '😀.jpg', 'deep/er/and deeper/x.y.z',
];

/** @return list<Entry> one of each name, with each status in turn */
function oddEntries(): array
{
    $entries = [];
    foreach (ODD_NAMES as $i => $name) {
        $entries[] = new Entry(PageResolver::key($name), "/to/$i", [301, 302, 308][$i % 3]);
    }

    return $entries;
}

/** @return list<string> ways to ask for a path, of which each means the same (RFC 3986, 6.2.2) */
function spellings(string $path): array
{
    $each = static fn (string $keep): string => (string) preg_replace_callback(
        "~[^$keep/]~s",
        static fn (array $m): string => '%'.strtoupper(bin2hex($m[0])),
        "/$path",
    );
    $usual = $each('A-Za-z0-9._\-\~');

    return array_values(array_unique([
        $usual,
        (string) preg_replace_callback('~%..~', static fn (array $m): string => strtolower($m[0]), $usual),
        $each(''),
        $each("A-Za-z0-9._\-\~\x80-\xFF!$&'()*+,;=:@"),
    ]));
}

/** @return array{int, string} status and Location */
function answerOf(int $port, string $target): array
{
    $handle = curl_init("http://127.0.0.1:$port");
    curl_setopt_array($handle, [
        CURLOPT_REQUEST_TARGET => $target,
        CURLOPT_RETURNTRANSFER => true,
        CURLOPT_HEADER => true,
        CURLOPT_TIMEOUT => 10,
    ]);
    $head = (string) curl_exec($handle);
    preg_match('~^location: ([^\r\n]*)~mi', $head, $m);

    return [(int) curl_getinfo($handle, CURLINFO_RESPONSE_CODE), $m[1] ?? ''];
}

/** A real nginx on loopback that was handed a list, as its first lines say. */
function nginxWith(string $list, string $folder): array
{
    shell_exec('rm -rf '.escapeshellarg($folder));
    mkdir($folder, 0o775, true);
    file_put_contents("$folder/list.conf", $list);
    $port = Loopback::freePort();
    $rules = '';
    foreach (['', 'asked_'] as $asked) {
        foreach ([301, 302, 307, 308] as $status) {
            $name = "{$asked}sent_on_$status";
            $rules .= str_contains($list, "\" \$$name {") ? "if (\$$name) { return $status \$$name; }\n" : '';
        }
        $rules .= str_contains($list, "\" \${$asked}is_gone {") ? "if (\${$asked}is_gone) { return 410; }\n" : '';
    }
    $temporary = implode(' ', array_map(
        static fn (string $kind): string => "{$kind}_temp_path $folder/$kind;",
        ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'],
    ));
    file_put_contents("$folder/nginx.conf", <<<TEXT
        daemon off; pid $folder/pid; error_log $folder/error.log warn; worker_processes 1;
        events { worker_connections 64; }
        http {
            access_log off; absolute_redirect off; $temporary
            include $folder/list.conf;
            server { listen 127.0.0.1:$port; $rules location / { return 404; } }
        }
        TEXT);
    $server = new Process(['/usr/sbin/nginx', '-e', "$folder/error.log", '-c', "$folder/nginx.conf"]);
    $server->start();
    for ($i = 0; $i < 200 && $server->isRunning() && @fsockopen('127.0.0.1', $port) === false; $i++) {
        usleep(50_000);
    }

    return [$server, $port];
}

it('is understood by a real nginx, which sends on from each odd name, whatever its spelling', function (): void {
    $entries = oddEntries();
    $long = str_repeat('long-', 120).'.jpg';
    array_push(
        $entries,
        new Entry($long, 'https://pics.example/möwe $1 "x".jpg?a=1&b=2#c'),
        new Entry('index.php?p=7', '/seven', 302),
        new Entry('gone for good', '', 410),
    );
    for ($i = 0; $i < 4000; $i++) {
        $entries[] = new Entry("many/$i", "/many/to/$i");
    }
    $list = implode('', iterator_to_array(Format::Nginx->write(static fn (): array => $entries), false));
    [$server, $port] = nginxWith($list, self::folder().'/nginx');
    try {
        expect($server->isRunning())->toBeTrue($server->getErrorOutput())
            ->and(file_get_contents(self::folder().'/nginx/error.log'))->toBe('');
        $wrong = [];
        foreach (ODD_NAMES as $i => $name) {
            foreach (spellings($name) as $target) {
                if (answerOf($port, $target) !== [[301, 302, 308][$i % 3], "/to/$i"]) {
                    $wrong[] = $target;
                }
            }
        }
        expect($wrong)->toBe([])
            ->and(answerOf($port, "/$long"))
            ->toBe([301, 'https://pics.example/m%C3%B6we%20%241%20%22x%22.jpg?a=1&b=2#c'])
            ->and(answerOf($port, '/index.php?p=7'))->toBe([302, '/seven'])
            ->and(answerOf($port, '/gone%20for%20good')[0])->toBe(410)
            ->and(answerOf($port, '/many/3999'))->toBe([301, '/many/to/3999'])
            // What differs in case alone is another file, and may well be there.
            ->and(answerOf($port, '/OLD/page')[0])->toBe(404)
            ->and(answerOf($port, '/uPPER.jpg')[0])->toBe(404)
            ->and(answerOf($port, '/many/4000')[0])->toBe(404);
    } finally {
        $server->stop(5);
    }
});

/** A real Apache on loopback that was handed a list, by the rules that the list says. */
function apacheWith(string $list, string $folder): array
{
    shell_exec('rm -rf '.escapeshellarg($folder));
    mkdir("$folder/htdocs", 0o775, true);
    file_put_contents("$folder/list.map", $list);
    $port = Loopback::freePort();
    $modules = implode("\n", array_map(
        static fn (string $name): string => "LoadModule {$name}_module /usr/lib/apache2/modules/mod_$name.so",
        ['mpm_event', 'authz_core', 'rewrite'],
    ));
    $said = str_replace(
        '/path/of/this/file',
        "$folder/list.map",
        (string) preg_replace('~^#( {5}|.*)~m', '$1', implode("\n", array_map(
            static fn (string $line): string => (string) preg_replace('~\s+\(and so .*$~', '', substr($line, 1)),
            preg_grep('~^#     Rewrite~', explode("\n", $list)) ?: [],
        ))),
    );
    preg_match('~^ *RewriteCond .*301.*\n.*301.*$~m', $said, $rules);
    $more = implode("\n", array_map(static fn (string $one): string => str_replace('301', $one, $rules[0]), [
        '302', '307', '308',
    ]));
    file_put_contents("$folder/httpd.conf", <<<TEXT
        ServerRoot $folder
        ServerName 127.0.0.1
        Listen 127.0.0.1:$port
        PidFile $folder/pid
        ErrorLog $folder/error.log
        DocumentRoot $folder/htdocs
        AllowEncodedSlashes On
        $modules
        RewriteEngine On
        $said
        $more
        TEXT);
    $server = new Process(['/usr/sbin/apache2', '-f', "$folder/httpd.conf", '-DFOREGROUND']);
    $server->start();
    for ($i = 0; $i < 200 && $server->isRunning() && @fsockopen('127.0.0.1', $port) === false; $i++) {
        usleep(50_000);
    }

    return [$server, $port];
}

it('is understood by a real Apache, which sends on from each odd name, whatever its spelling', function (): void {
    $entries = oddEntries();
    $entries[] = new Entry('far', 'https://pics.example/möwe $1 "x".jpg?a=1&b=2#c');
    $entries[] = new Entry('near', '/g#top');
    $entries[] = new Entry('gone for good', '', 410);
    $list = implode('', iterator_to_array(Format::Apache->write(static fn (): array => $entries), false));
    [$server, $port] = apacheWith($list, self::folder().'/apache');
    try {
        expect($server->isRunning())->toBeTrue($server->getErrorOutput().$server->getOutput());
        $wrong = [];
        foreach (ODD_NAMES as $i => $name) {
            foreach (spellings($name) as $target) {
                [$status, $to] = answerOf($port, $target);
                if ($status !== [301, 302, 308][$i % 3] || parse_url($to, PHP_URL_PATH) !== "/to/$i") {
                    $wrong[] = "$target $status $to";
                }
            }
        }
        expect($wrong)->toBe([])
            ->and(answerOf($port, '/far'))
            ->toBe([301, 'https://pics.example/m%C3%B6we%20$1%20%22x%22.jpg?a=1&b=2#c'])
            ->and(answerOf($port, '/far?of=this')[1])->toEndWith('.jpg?a=1&b=2#c')
            ->and(answerOf($port, '/near')[1])->toEndWith('/g?#top')
            ->and(answerOf($port, '/old/page?x=1')[1])->toEndWith('/to/0')
            ->and(answerOf($port, '/gone%20for%20good')[0])->toBe(410)
            ->and(answerOf($port, '/OLD/page')[0])->toBe(404);
    } finally {
        $server->stop(5);
    }
});
