<?php

declare(strict_types=1);

use Tests\Core\Connect\MadeSamples;
use Ylema\Connect\ColumnProfile;
use Ylema\Connect\ColumnType;
use Ylema\Connect\Relation;
use Ylema\Connect\Relations;
use Ylema\Connect\TableProfile;

/*
 * Which columns hold keys of which tables.
 */

/**
 * @param  list<string>  $values
 * @return list<string> `column → table`
 */
function relationsOf(string $column, array $values, string $to, array $foreign = []): array
{
    $banners = new TableProfile('banners', 9, [
        'id' => new ColumnProfile('id', ColumnType::Number, ['1', '2']),
        $column => new ColumnProfile($column, ColumnType::Number, $values),
    ], [['id']], $foreign);
    $other = new TableProfile($to, 3, ['id' => new ColumnProfile('id', ColumnType::Number, ['1', '2', '3'])], [['id']]);
    $samples = new MadeSamples([], ['1', '2', '3']);

    return array_map(
        static fn (Relation $r): string => "$r->column → $r->to",
        (new Relations(['banners' => $banners, $to => $other], '', $samples))->all(),
    );
}

it('believes a name and its values', function (string $column, string $to): void {
    expect(relationsOf($column, ['1', '2', '3'], $to))->toBe(["$column → $to"]);
})->with([['slot_id', 'slots'], ['slot', 'slots'], ['position_id', 'positions'], ['fk_rank', 'ranks']]);

it('takes the order of rows for no key, though its numbers are keys of something', function (
    string $column,
    array $values,
    string $to,
): void {
    expect(relationsOf($column, $values, $to))->toBe([]);
})->with([
    'from nought' => ['position', ['0', '1'], 'positions'],
    'from one' => ['sort', ['1', '2', '3'], 'sorts'],
    'as a weight' => ['weight', ['0', '2'], 'weights'],
    'by a long name' => ['sort_order', ['1', '2'], 'orders'],
]);

it('believes the database before any name', function (): void {
    expect(relationsOf('position', ['0', '1'], 'positions', ['position' => ['positions', 'id']]))
        ->toBe(['position → positions']);
});
