<?php

declare(strict_types=1);

use Ylema\Redirects\Entry;
use Ylema\Redirects\Format;

/** @param  list<Entry>  $entries */
function written(Format $format, array $entries, string $folder = '/'): string
{
    return implode('', iterator_to_array($format->write(static fn (): array => $entries, $folder), false));
}

function entries(): array
{
    return [
        new Entry('old/page', '/new/page'),
        new Entry('media/Möwe am Kai.jpg', 'https://pics.example/gull.jpg?a=1&b=$2'),
        new Entry('index.php?p=7', '/seven', 302),
        new Entry('gone "for good"', '', 410),
    ];
}

it('writes maps for nginx, one for each status, and apart what has a query', function (): void {
    $map = written(Format::Nginx, entries());
    expect($map)
        ->toContain("map_hash_max_size 2048;\nmap_hash_bucket_size 64;\n")
        ->toContain('"/old/page" "/old/page\\n/new/page";')
        ->toContain('"/media/Möwe am Kai.jpg" "/media/Möwe am Kai.jpg\\nhttps://pics.example/gull.jpg?a=1&b=%242";')
        ->toContain("map \$request_uri \$ylema_asked_sent_on_302 {\n    default \"\";\n    \"/index.php?p=7\"")
        ->toContain('"/gone \\"for good\\"" "/gone \\"for good\\"\\n1";')
        ->and(substr_count($map, "\nmap "))
        ->toBe(6);
});

it('writes lines for Apache, whose keys have no blanks', function (): void {
    $lines = array_filter(
        explode("\n", written(Format::Apache, entries(), '/bay/')),
        static fn (string $line): bool => $line !== '' && $line[0] !== '#',
    );
    expect(array_values($lines))->toBe([
        '301:/bay/old/page /new/page',
        '301:/bay/media/M%c3%b6we%20am%20Kai.jpg https://pics.example/gull.jpg',
        '?301:/bay/media/M%c3%b6we%20am%20Kai.jpg a=1&b=$2',
        '302:/bay/index.php?p=7 /seven',
        '410:/bay/gone%20%22for%20good%22 -',
    ]);
});

it('writes CSV as RFC 4180 has it', function (): void {
    $csv = written(Format::Csv, [...entries(), new Entry('a', '/b,"c"')]);
    $rows = array_map(static fn (string $line): array => str_getcsv($line, ',', '"', ''), explode("\r\n", rtrim($csv)));
    expect($csv)
        ->toEndWith("\r\n")
        ->and($rows[0])
        ->toBe(['from', 'to', 'status'])
        ->and($rows[5])
        ->toBe(['/a', '/b,"c"', '301'])
        ->and($rows[4])
        ->toBe(['/gone%20%22for%20good%22', '', '410']);
});

it('writes JSON, of nothing, too', function (): void {
    expect(json_decode(written(Format::Json, entries()), true)[3])
        ->toBe(['from' => '/gone%20%22for%20good%22', 'to' => null, 'status' => 410])
        ->and(json_decode(written(Format::Json, []), true))
        ->toBe([]);
});

it('hands on no circle, and no address twice, but says so', function (Format $format): void {
    $list = written($format, [
        new Entry('a', '/a'), new Entry('möwe', '/m%C3%B6we?x'), new Entry('möwe?x', '/bay/möwe'), new Entry('b', '/c'),
        new Entry('c', '/b'), new Entry('d', '/e'), new Entry('d', '/f'), new Entry('e', '/g#top'),
        new Entry('h', 'https://other.example/h'), new Entry('x', "/x\ny"),
    ]);
    expect(array_values(preg_grep('~^# Left out~', explode("\n", $list))))->toBe([
        '# Left out: /a → /a: it leads to itself.',
        '# Left out: /b → /c: it leads in a circle.',
        '# Left out: /c → /b: it leads in a circle.',
        '# Left out: /d → /f: this address is in the list already.',
    ])->and($list)->not->toContain('/f"')->toContain($format === Format::Apache ? '?301:/e #top' : '/g#top', 'https://other.example/h');
})->with([Format::Nginx, Format::Apache]);

it('hands on none that ends where nothing is, however many leaps away', function (Format $format): void {
    $list = written($format, [
        new Entry('a', '/b'), new Entry('b', '/c'), new Entry('c', '', 410), new Entry('d', '/e'),
    ]);
    expect(array_values(preg_grep('~^# Left out~', explode("\n", $list))))->toBe([
        '# Left out: /a → /b: it leads to an address where nothing is any more.',
        '# Left out: /b → /c: it leads to an address where nothing is any more.',
    ])->and($list)->toContain('/c', '/e');
})->with([Format::Nginx, Format::Apache]);
