<?php

declare(strict_types=1);

use Ylema\Sites\Hole;

/*
 * What stands in braces in a path or an address.
 */

it('says the column, or a part of it', function (string $hole, string $column, string $value, string $said): void {
    $own = Hole::of($hole);
    expect($own->column)->toBe($column)->and($own->said($value))->toBe($said);
})->with([
    ['slug', 'slug', 'pier', 'pier'],
    ['up.address|en', 'up.address', 'pier', 'pier'],
    ['sha.1-2', 'sha', 'abcdef', 'ab'],
    ['made.month', 'made', '2019-05-01 10:00', '05'],
    ['title->en', 'title', '{"en":"Pier"}', 'Pier'],
    ['id.06', 'id', '123', '000123'],
    ['id.06', 'id', '1234567', '1234567'],
    ['id.06.1-2', 'id', '123', '00'],
    ['id.06.3-4', 'id', '123', '01'],
    ['id.06', 'id', 'a1', 'a1'],
    ['t.id.08.1-4', 't.id', '123', '0000'],
]);

it('knows where not all of a value stands', function (string $hole, bool $isWhole): void {
    expect(Hole::of($hole)->isWhole())->toBe($isWhole);
})->with([['slug', true], ['sha.1-2', false], ['made.year', false], ['t->en', false], ['id.06', false]]);
