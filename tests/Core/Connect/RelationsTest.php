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

/**
 * @param  array<string, list<string>>  $tables name → columns, the key first
 * @return list<string> `table.column → table`
 */
function relationsAmong(array $tables): array
{
    $profiles = [];
    foreach ($tables as $name => $columns) {
        $of = static fn (string $column): ColumnProfile => new ColumnProfile($column, ColumnType::Number, ['1', '2']);
        $profiles[$name] = new TableProfile(
            $name,
            count($profiles) > 0 ? 2 : 3,
            array_combine($columns, array_map($of, $columns)),
            [[$columns[0]]],
        );
    }

    return array_map(
        static fn (Relation $r): string => "$r->table.$r->column → $r->to",
        (new Relations($profiles, '', new MadeSamples([], ['1', '2'])))->all(),
    );
}

it('believes a name and its values', function (string $column, string $to): void {
    expect(relationsOf($column, ['1', '2', '3'], $to))->toBe(["$column → $to"]);
})->with([
    ['slot_id', 'slots'],
    ['slot', 'slots'],
    ['position_id', 'positions'],
    ['fk_rank', 'ranks'],
    // The table goes on where the name ends.
    ['folder_id', 'folder_list'],
    ['dirid', 'dirlist'],
    ['idslot', 'slots'],
    // In a language whose plural is another.
    ['plik_id', 'pliki'],
    ['person_id', 'people'],
    ['medium_id', 'medien'],
]);

it('takes the order of rows for no key, though its numbers are keys of something', function (
    string $column,
    array $values,
    string $to,
): void {
    expect(relationsOf($column, $values, $to))->toBe([]);
})->with([
    'from nought' => ['position', ['0', '1'], 'positions'],
    'in another language' => ['ordine', ['0', '1', '2'], 'ordini'],
    'from one' => ['sort', ['1', '2', '3'], 'sorts'],
    'as a weight' => ['weight', ['0', '2'], 'weights'],
    'by a long name' => ['sort_order', ['1', '2'], 'orders'],
]);

it('believes the database before any name', function (): void {
    expect(relationsOf('position', ['0', '1'], 'positions', ['position' => ['positions', 'id']]))
        ->toBe(['position → positions']);
});

it('prefers the table whose name its own goes on with, and a whole name before the end of one', function (): void {
    expect(relationsAmong(['item_field' => ['id'], 'page_field' => ['id'], 'page_field_value' => ['vid', 'field_id']]))
        ->toBe(['page_field_value.field_id → page_field'])
        ->and(relationsAmong(['page_plik' => ['id'], 'pliki' => ['id'], 'rows' => ['rid', 'plik_id']]))
        ->toBe(['rows.plik_id → pliki']);
});

it('takes keys of two tables that are called alike for their own', function (): void {
    expect(relationsAmong(['page_meta' => ['meta_id', 'page'], 'post_meta' => ['meta_id', 'post']]))->toBe([])
        // What adds to another table has its key.
        ->and(relationsAmong(['node' => ['nid'], 'node_text' => ['nid', 'length']]))->toBe(['node_text.nid → node']);
});

it('takes no row that names a thing for the thing itself', function (): void {
    expect(relationsAmong(['page_pic' => ['id', 'pic_id'], 'news_pic' => ['id', 'pic_id']]))->toBe([])
        // What goes on with a name that is written together is one of it.
        ->and(relationsAmong(['pagefield' => ['id', 'kind'], 'pagefieldvalue' => ['vid', 'field']]))
        ->toBe(['pagefieldvalue.field → pagefield']);
});
