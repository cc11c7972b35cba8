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
        ->toContain("map \$uri \$sent_on_301 {\n    default \"\";\n    \"/old/page\" \"/new/page\";\n")
        ->toContain('"/media/Möwe am Kai.jpg" "https://pics.example/gull.jpg?a=1&b=%242";')
        ->toContain("map \$request_uri \$asked_sent_on_302 {\n    default \"\";\n    \"/index.php?p=7\" \"/seven\";\n}")
        ->toContain("map \$uri \$is_gone {\n    default \"\";\n    \"/gone \\\"for good\\\"\" \"1\";\n}")
        ->and(substr_count($map, "\nmap "))
        ->toBe(3);
});

it('writes lines for Apache, whose keys have no blanks', function (): void {
    $lines = array_filter(
        explode("\n", written(Format::Apache, entries(), '/bay/')),
        static fn (string $line): bool => $line !== '' && $line[0] !== '#',
    );
    expect(array_values($lines))->toBe([
        '301:/bay/old/page /new/page',
        '301:/bay/media/M%C3%B6we%20am%20Kai.jpg https://pics.example/gull.jpg?a=1&b=$2',
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
