<?php

declare(strict_types=1);

use Ylema\Addresses\SiteAddresses;
use Ylema\Logs\Asker;
use Ylema\Logs\Askers;
use Ylema\Logs\LogFormat;
use Ylema\Logs\LogLine;
use Ylema\Logs\LogTally;

function logLine(
    string $target,
    string $rest = '200 10 "-" "Mozilla/5.0 (X11)"',
    string $before = '192.0.2.7 - -',
): string {
    return "$before [12/Oct/2026:13:00:01 +0200] \"GET $target HTTP/1.1\" $rest";
}

function tally(string ...$lines): LogTally
{
    $addresses = new SiteAddresses('https://korrinbay.example/', ['https://old.example/bay/']);
    $tally = new LogTally(new LogFormat(), new Askers($addresses, 'Ylema'), $addresses, ['media/']);
    array_map($tally->add(...), $lines);

    return $tally;
}

it('reads the formats of access logs', function (string $line, ?array $wanted): void {
    $read = (new LogFormat())->read($line);
    expect(
        $read === null
            ? null
            : [
                $read->host,
                gmdate('Y-m-d H:i:s', $read->time),
                $read->target,
                $read->status,
                $read->referrer,
                $read->agent,
            ],
    )->toBe($wanted);
})->with([
    'combined' => [
        logLine('/a.jpg?x=1', '200 10 "https://b.example/" "M"'),
        [null, '2026-10-12 11:00:01', '/a.jpg?x=1', 200, 'https://b.example/', 'M'],
    ],
    'common' => [logLine('/a.jpg', '304 -'), [null, '2026-10-12 11:00:01', '/a.jpg', 304, '', '']],
    'with a host and its port' => [
        logLine('/a.jpg', before: 'korrinbay.example:443 2001:db8::1 - -'),
        ['korrinbay.example:443', '2026-10-12 11:00:01', '/a.jpg', 200, '', 'Mozilla/5.0 (X11)'],
    ],
    'with a user whose name has blanks' => [
        logLine('/a.jpg', before: '192.0.2.7 - Frank the Owner'),
        [null, '2026-10-12 11:00:01', '/a.jpg', 200, '', 'Mozilla/5.0 (X11)'],
    ],
    'asked by a name' => [
        logLine('/a.jpg', before: 'dial-7.example - -'),
        [null, '2026-10-12 11:00:01', '/a.jpg', 200, '', 'Mozilla/5.0 (X11)'],
    ],
    'with quotes and bytes written out' => [
        logLine('/a\x22b.jpg', '200 10 "https://b.example/\"q" "M \"x\""'),
        [null, '2026-10-12 11:00:01', '/a"b.jpg', 200, 'https://b.example/"q', 'M \"x\"'],
    ],
    'with more behind' => [
        logLine('/a.jpg', '200 10 "-" "M" 0.004 "x"'),
        [null, '2026-10-12 11:00:01', '/a.jpg', 200, '', 'M'],
    ],
    'of before HTTP/1.0' => [
        '192.0.2.7 - - [12/Oct/2026:13:00:01 -0130] "GET /a.jpg" 200 5',
        [null, '2026-10-12 14:30:01', '/a.jpg', 200, '', ''],
    ],
    'no day of any month' => [str_replace('12/Oct', '31/Feb', logLine('/a.jpg')), null],
    'no month' => [str_replace('Oct', 'Okt', logLine('/a.jpg')), null],
    'no request' => ['192.0.2.7 - - [12/Oct/2026:13:00:01 +0200] "\x16\x03\x01" 400 0 "-" "-"', null],
    'cut off' => [substr(logLine('/a.jpg'), 0, 60), null],
    'nothing' => ['', null],
]);

it('tells who asked', function (string $referrer, string $agent, ?Asker $who): void {
    $askers = new Askers(new SiteAddresses('https://korrinbay.example/', ['https://old.example/bay/']), 'Ylema');
    expect($askers->of(new LogLine(null, 1, 'GET', '/a.jpg', 200, $referrer, $agent)))->toBe($who);
})->with([
    ['', 'Mozilla/5.0 (X11)', Asker::Visitor],
    ['https://korrinbay.example/walks', 'Mozilla/5.0 (X11)', Asker::Visitor],
    ['http://www.korrinbay.example/walks', 'Mozilla/5.0 (X11)', Asker::Visitor],
    ['https://korrinbay.example.evil.example/', 'Mozilla/5.0 (X11)', Asker::OtherSite],
    ['https://tidewatchers.example/a?b', 'Mozilla/5.0 (X11)', Asker::OtherSite],
    ['https://webmail.post.example/in', 'Mozilla/5.0 (X11)', Asker::Mail],
    ['', 'HarbourMail/2.1 (mail; Linux)', Asker::Mail],
    ['https://tidewatchers.example/', 'shorebot/0.9', Asker::Robot],
    ['', 'Mozilla/5.0 (compatible; tidecrawler/2; +https://tidecrawler.example)', Asker::Robot],
    ['', '', Asker::Robot],
    ['', 'Ylema', null],
    ['not an address', 'Mozilla/5.0 (X11)', Asker::Visitor],
]);

it('counts by path, as a server reads addresses, and nothing but files of the site', function (): void {
    $tally = tally(
        logLine('/media/m%C3%B6we%20am%20kai.jpg?v=3'),
        logLine('https://korrinbay.example/media/a.jpg'),
        logLine('/media/a.jpg', '404 0 "-" "Mozilla/5.0 (X11)"'),
        logLine('/bay/media/a.jpg', before: 'old.example:80 192.0.2.1 - -'),
        logLine('/media/a.jpg', before: 'other.example 192.0.2.1 - -'),
        logLine('/styles/a.css'),
        logLine('/media/'),
        str_replace('GET', 'POST', logLine('/media/a.jpg')),
        'nonsense',
    );
    $paths = $tally->take();
    expect(array_keys($paths))
        ->toBe(['media/möwe am kai.jpg', 'media/a.jpg'])
        ->and([$paths['media/a.jpg']->visitors, $paths['media/a.jpg']->missed])
        ->toBe([2, 1])
        ->and([$tally->lines, $tally->broken, $tally->example, $tally->requests])
        ->toBe([9, 1, 'nonsense', 4])
        ->and($tally->take())
        ->toBe([]);
});

it('knows whose a line is: another host says nothing, not even of a day', function (): void {
    $day = static fn (string $line, int $day): string => str_replace('12/Oct', "$day/Oct", $line);
    $tally = tally(
        $day(logLine('/media/a.jpg', before: 'shop.example:443 192.0.2.1 - -'), 10),
        $day(logLine('/media/a.jpg', before: 'www.korrinbay.example 192.0.2.1 - -'), 12),
        $day(logLine('/media/a.jpg', before: 'old.example 192.0.2.1 - -'), 14),
        $day(logLine('http://shop.example/media/a.jpg'), 15),
        $day(logLine('/media/a.jpg'), 13),
    );
    expect([$tally->own, $tally->hosts, gmdate('d', $tally->from), gmdate('d', $tally->until)])
        ->toBe([2, ['shop.example' => 2], '12', '13'])
        ->and($tally->lines)
        ->toBe(5);
});

it(
    'keeps pages of other sites without what says who somebody is, and an example without whose it was',
    function (): void {
        $tally = tally(
            logLine('/media/a.jpg', '200 1 "https://b.example/p?reader=7#x" "Mozilla/5.0 (X11)"'),
            logLine('/media/a.jpg', '200 1 "https://b.example/p?reader=8" "Mozilla/5.0 (X11)"'),
            '192.0.2.9 and 2001:db8:0:1::7 broke off',
        );
        expect($tally->take()['media/a.jpg']->pages)
            ->toBe(['https://b.example/p' => 2])
            ->and($tally->example)
            ->not->toContain('192.0.2')
            ->not->toContain('db8');
    },
);
