<?php

declare(strict_types=1);

use App\Sites\Cell;
use App\Sites\FieldMap;
use App\Sites\LikelyKeys;
use App\Sites\NotSearched;
use App\Sites\TablesBeside;
use Tests\App\Sources\Engine;
use Tests\App\Sources\Source;
use Ylema\Connect\MediaKeys;

/** @return list<string> what of a table lies beside a map: column, key and text */
function besideOf(TablesBeside $beside, string $table): array
{
    $cells = [];
    foreach ($beside->cells($table) as $cell) {
        $cells[] = $cell instanceof Cell
            ? "$cell->column $cell->key: ".substr($cell->text, 0, 30)
            : "not searched: $cell->place: $cell->why";
    }
    sort($cells);

    return $cells;
}

function tablesBeside(Source $source, string $map): TablesBeside
{
    $as = $source->credentials();

    return new TablesBeside(FieldMap::parse("version: 1\n$map"), $source->dsn(), $as['user'], $as['password']);
}

it('streams what no line reads: columns, rows of other kinds, names without a rule', function (string $kind): void {
    $source = new Source($kind);
    new Engine(
        $kind,
        <<<'SQL'
        create table w_meta (id {serial}, name varchar(60), value {text}, more {text}, n integer, raw {bytes});
        insert into w_meta (name, value, more, n) values ('hero', 'read', 'open 1', 1);
        insert into w_meta (name, value, more, n) values ('block_1', 'read too', null, 2);
        insert into w_meta (name, value, more, n) values ('blockx', 'open 2', '', 3);
        insert into w_meta (name, value, more, n) values (null, 'open 3', null, 4);
        create table w_nodes (id {serial}, type varchar(20), body {text});
        insert into w_nodes (type, body) values ('page', 'read');
        insert into w_nodes (type, body) values ('old', 'open 4');
        insert into w_nodes (type, body) values (null, 'open 5');
        SQL
        ,
    );
    $source->pdo->prepare('update w_meta set raw = ? where id = 1')->execute(["\x01open"]);
    $beside = tablesBeside(
        $source,
        <<<'YAML'
        files: { folders: [uploads] }
        records:
          page: { table: w_nodes, where: "type = 'page'", key: id, title: type, fields: { body: html } }
          meta:
            table: w_meta
            key: id
            title: "{name}"
            fields: { value: { by: name, of: { hero: html, "block_*": html } } }
        YAML
        ,
    );
    expect($beside->tables())->toContain('w_meta', 'w_nodes')
        ->and(besideOf($beside, 'w_meta'))
        ->toBe(['more 1: open 1', "raw 1: \x01open", 'value 3: open 2', 'value 4: open 3'])
        ->and(besideOf($beside, 'w_nodes'))
        ->toBe(['body 2: open 4', 'body 3: open 5']);
})->with(Source::KINDS);

it('searches rows of a joined table that are joined to nothing', function (string $kind): void {
    $source = new Source($kind);
    new Engine(
        $kind,
        <<<'SQL'
        create table w_nodes (id {serial}, type varchar(20));
        insert into w_nodes (type) values ('page');
        create table w_texts (id {serial}, node integer, lang varchar(5), body {text});
        insert into w_texts (node, lang, body) values (1, 'en', 'read');
        insert into w_texts (node, lang, body) values (1, 'cy', 'open');
        SQL
        ,
    );
    $beside = tablesBeside(
        $source,
        <<<'YAML'
        files: { folders: [uploads] }
        records:
          page:
            table: w_nodes
            joins: { text: { table: w_texts, on: { node: id }, where: "lang = 'en'" } }
            key: id
            title: type
            fields: { text.body: html }
        YAML
        ,
    );
    expect(besideOf($beside, 'w_texts'))->toContain('body 2: open')->not->toContain('body 1: read');
})->with(Source::KINDS);

it('gives long values in parts that share their borders, and says which have no key', function (string $kind): void {
    $source = new Source($kind);
    new Engine(
        $kind,
        'create table w_long (id {serial}, text {text});'."\n".'create table w_loose (text {text});',
    );
    $text = str_repeat('0123456789 möwe ', 50_000).'end';
    foreach (['w_long', 'w_loose'] as $table) {
        $source->pdo->prepare("insert into $table (text) values (?)")->execute([$text]);
    }
    $beside = tablesBeside($source, "files: { folders: [] }\nrecords: {}");
    $whole = '';
    foreach ($beside->cells('w_long') as $cell) {
        expect($cell)->toBeInstanceOf(Cell::class)->and($cell->from)->toBeLessThanOrEqual(strlen($whole));
        $whole = substr($whole, 0, $cell->from).$cell->text;
    }
    expect($whole === $text)->toBeTrue()
        ->and(besideOf($beside, 'w_loose'))
        ->toBe(['not searched: w_loose.text: It has long values, and the table has no key to ask for each.']);
})->with(Source::KINDS);

it('says which table could not be read', function (string $kind): void {
    $source = new Source($kind);
    $source->pdo->exec('drop table if exists w_gone');
    $found = [...tablesBeside($source, <<<'YAML'
        files: { folders: [] }
        records:
          gone: { table: pages, where: "no_such_column = 1", key: id, title: name, fields: { body: html } }
        YAML)->cells('pages')];
    $last = end($found);
    expect($last)->toBeInstanceOf(NotSearched::class)
        ->and($last->place)->toBe('pages')
        ->and($last->why)->toContain('could not be read');
})->with(['pgsql', 'mysql']);

it('tells columns whose values could be keys of media, also of some rows only', function (string $kind): void {
    $source = new Source($kind);
    new Engine(
        $kind,
        <<<'SQL'
        create table pages_of (page integer, second_id integer, caption {text}, primary key (page, second_id));
        insert into pages_of values (1, 31, 'one'), (2, 12, 'two');
        create table authors (id integer primary key, name varchar(40));
        insert into authors values (4, 'Maren'), (5, 'Lise');
        create table w_facts (id {serial}, author_id integer, code varchar(20), held {text}, w_read integer);
        insert into w_facts (author_id, code, held, w_read) values (4, 'crest', '12, 31', 12);
        insert into w_facts (author_id, code, held, w_read) values (5, 'motto', 'Ever on', 31);
        insert into w_facts (author_id, code, held, w_read) values (4, 'title', '12', 31);
        SQL
        ,
    );
    $beside = tablesBeside(
        $source,
        <<<'YAML'
        files: { folders: [uploads] }
        records:
          fact:
            table: w_facts
            key: id
            title: code
            fields: { w_read: text, held: { by: code, of: { title: text } } }
        YAML
        ,
    );
    $media = new MediaKeys(['4', '5', '12', '31']);
    $found = [];
    foreach (['pages_of', 'authors', 'w_facts'] as $table) {
        foreach ($beside->likelyKeys($table, $media) as $likely) {
            expect($likely)->toBeInstanceOf(LikelyKeys::class);
            $hits = $likely->keys->hits();
            ksort($hits);
            $found[$likely->place()] = $hits;
        }
    }
    expect($found)->toBe([
        'pages_of.second_id' => [12 => '2 12', 31 => '1 31'],
        'w_facts.held, rows with code “crest”' => [12 => '1', 31 => '1'],
    ]);
})->with(Source::KINDS);
