<?php

declare(strict_types=1);

use Ylema\Connect\ColumnProfile;
use Ylema\Connect\ColumnType;
use Ylema\Connect\RedirectTable;
use Ylema\Connect\TableProfile;

it('finds a table of redirects by its names and what they hold', function (array $from, array $to, bool $isOne): void {
    $table = new TableProfile('forwards', 3, [
        'id' => new ColumnProfile('id', ColumnType::Number, ['1', '2']),
        'old_path' => new ColumnProfile('old_path', ColumnType::Text, $from),
        'new_path' => new ColumnProfile('new_path', ColumnType::Text, $to),
    ], [['id']]);
    expect(RedirectTable::among(['forwards' => $table]) !== null)->toBe($isOne);
})->with([
    'paths from the root' => [['/a', '/b/c'], ['/d', 'https://x.example/e'], true],
    'paths without the slash' => [['old/boats.html', 'pier.php?id=3'], ['boats/', 'walks/pier'], true],
    'words' => [['Old pier', 'Boats'], ['New pier', 'Boats'], false],
    'single words' => [['draft', 'open'], ['open', 'closed'], false],
    'numbers' => [['1', '2'], ['2', '3'], false],
]);
