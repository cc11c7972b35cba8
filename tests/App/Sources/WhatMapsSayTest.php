<?php

declare(strict_types=1);

use App\Sites\FieldMap;
use App\Sites\FieldMapError;
use Tests\App\Sources\Engine;
use Tests\App\Sources\Source;
use Tests\Core\Growth;
use Ylema\Change\Edit;
use Ylema\Change\Edits;
use Ylema\Failure;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\FieldEdits;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Names;
use Ylema\Sites\NewMedia;
use Ylema\Sites\Owner;
use Ylema\Sites\RecordChanged;
use Ylema\Sites\Replacement;
use Ylema\Sites\SourceField;
use Ylema\Sites\SourceRecord;
use Ylema\Sites\WriteRefused;

/*
 * What a field map can say of tables that nobody made for it, the same on each database.
 */

/** @return list<string> what a field's references say */
function values(?SourceField $field): array
{
    return $field === null
        ? []
        : array_column((new FieldReader())->read($field->text, $field->notation, $field->rules)->references, 'value');
}

it('reads a table with one value a row: notation by name, owner by id', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_meta (id {serial}, owner integer, name varchar(60), value {text});
        insert into w_meta (owner, name, value) values (7, 'hero', '12');
        insert into w_meta (owner, name, value) values (7, 'block_1', '<img src="/uploads/a.jpg">');
        insert into w_meta (owner, name, value) values (8, 'views', '12');
        insert into w_meta (owner, name, value) values (0, 'block_2', '<img src="/uploads/b.jpg">');
        insert into w_meta (owner, name, value) values (9, 'blockx3', '<img src="/uploads/c.jpg">');
        SQL
        ,
    );
    $open = $engine->open(
        <<<'YAML'
        records:
          page: { table: w_meta, key: id, address: "{id}" }
          meta:
            table: w_meta
            key: id
            title: "{name}"
            part_of: { owner: page }
            fields: { value: { by: name, of: { hero: { notation: media-id, role: hero }, "block_*": html } } }
        YAML
        ,
    );
    $open->check();
    $records = $engine->records($open, 'meta');
    expect(array_map(strval(...), array_keys($records)))
        ->toBe(['1', '2', '4'])
        ->and($open->count('meta'))
        ->toBe(3)
        ->and(values($records[1]->field('value')))
        ->toBe(['12'])
        ->and($records[1]->owners)
        ->toEqual([new Owner('owner', 'page', '7')])
        ->and($records[1]->title)
        ->toBe('hero')
        ->and(values($records[2]->field('value')))
        ->toBe(['/uploads/a.jpg'])
        ->and($records[4]->owners)
        ->toBe([])
        ->and($engine->replace($open, 'meta', '2', 'value', 'a.jpg', 'z.jpg'))
        ->toBeNull()
        ->and($engine->value('select value from w_meta where id = 2'))
        ->toBe('<img src="/uploads/z.jpg">');
})->with(Source::KINDS);

it('takes state, address, title and dates from other tables by their key', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_nodes (id {serial}, section varchar(20), made bigint, body {text});
        create table w_texts (node integer, lang varchar(5), slug varchar(60), name varchar(60));
        create table w_flow (node varchar(20) primary key, step integer, sort integer);
        create table w_sections (code varchar(20) primary key, path varchar(60));
        insert into w_nodes (section, made, body) values ('m', 1580688000, '<img src="/uploads/a.jpg">');
        insert into w_nodes (section, made, body) values ('m', 4102444800, 'b');
        insert into w_nodes (section, made, body) values ('x', 0, 'c');
        insert into w_texts values (1, 'en', 'mill', 'The mill'), (1, 'de', 'muehle', 'Die Mühle');
        insert into w_texts values (2, 'en', 'race', 'Race');
        insert into w_flow values ('1', 2, 5), ('2', 2, 5), ('3', 1, 5);
        insert into w_sections values ('m', 'museum');
        SQL
        ,
    );
    $map = <<<'YAML'
    records:
      page:
        table: w_nodes
        key: id
        joins:
          text: { table: w_texts, on: { node: id }, where: "lang = 'en'" }
          flow: { table: w_flow, on: { node: id } }
          section: { table: w_sections, on: { code: section } }
        dates: { made: unix }
        title: text.name
        address: "{section.path}/{made.year}/{made.month}/{text.slug}"
        state: [{ column: flow.step, live: [2], waiting: [1] }, { from: made }]
        facts: { Sort: flow.sort }
        fields: { body: html }
    YAML;
    $open = $engine->open($map);
    $open->check();
    $records = $engine->records($open, 'page');
    expect(array_map(static fn ($r): array => [$r->title, $r->address, $r->state->word(), $r->facts], $records))
        ->toBe([
            1 => ['The mill', 'museum/2020/02/mill', 'live', ['Sort' => 5]],
            2 => ['Race', 'museum/2100/01/race', 'waiting', ['Sort' => 5]],
            3 => ['', null, 'waiting', ['Sort' => 5]],
        ])
        // Writing locks and changes the table itself, whatever is joined to it.
        ->and($engine->replace($open, 'page', '1', 'body', 'a.jpg', 'z.jpg'))
        ->toBeNull()
        ->and($engine->value('select body from w_nodes where id = 1'))
        ->toBe('<img src="/uploads/z.jpg">')
        ->and(fn () => $engine->open(str_replace(', where: "lang = \'en\'"', '', $map))->check())
        ->toThrow(FieldMapError::class, 'more than one row of "w_texts" belongs to one record')
        ->and(fn () => $engine->open(str_replace('text.name', 'texts.name', $map)))
        ->toThrow(FieldMapError::class, 'there is no join "texts" here; known: text, flow, section.');
})->with(Source::KINDS);

it('reads link tables whose key is several columns, in both directions, with a role', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_links (page varchar(20), pos integer, media integer, part varchar(20), primary key (page, pos));
        create table w_sets (set_id integer, banner integer, primary key (set_id, banner));
        insert into w_links values ('a/b', 1, 11, 'hero'), ('a/b', 2, 12, ''), ('a', 1, 13, 'x'), ('b%', 10, 14, 'y');
        insert into w_sets values (1, 5), (1, 6), (2, 5);
        SQL
        ,
    );
    $open = $engine->open(
        <<<'YAML'
        records:
          page: { table: w_links, key: page, distinct: true, address: "{page}" }
          placed:
            table: w_links
            key: [page, pos]
            part_of: { page: page }
            fields: { media: { notation: media-id, role: "picture {part}" } }
          set: { table: w_sets, key: set_id, distinct: true }
          banner: { table: w_sets, key: banner, distinct: true }
          entry:
            table: w_sets
            key: [set_id, banner]
            part_of: { set_id: set }
            fields: { banner: { notation: record-key, names: banner } }
        YAML
        ,
    );
    $open->check();
    $placed = $engine->records($open, 'placed');
    expect(array_keys($placed))
        ->toEqualCanonicalizing(['a/1', 'a%2Fb/1', 'a%2Fb/2', 'b%25/10'])
        ->and($placed['a%2Fb/1']->owners)
        ->toEqual([new Owner('page', 'page', 'a/b')])
        ->and($placed['a%2Fb/1']->fields[0]->rules->role)
        ->toBe('picture hero')
        ->and(array_map(strval(...), array_keys($engine->records($open, 'page'))))
        ->toEqualCanonicalizing(['a', 'a/b', 'b%'])
        ->and($open->count('page'))
        ->toBe(3)
        ->and(values($engine->records($open, 'entry')['1/6']->field('banner')))
        ->toBe(['6'])
        ->and($engine->replace($open, 'placed', 'a%2Fb/2', 'media', '12', '99'))
        ->toBeNull()
        ->and($engine->value("select media from w_links where page = 'a/b' and pos = 2"))
        ->toBe('99')
        ->and($engine->value('select sum(media) from w_links'))
        ->toBe((string) (11 + 99 + 13 + 14))
        // What is a part of its own key is called otherwise afterwards.
        ->and($engine->replace($open, 'entry', '1/6', 'banner', '6', '77'))
        ->toBeNull()
        ->and($engine->value('select count(*) from w_sets where banner = 6'))
        ->toBe('0')
        ->and($engine->value('select count(*) from w_sets where banner = 77'))
        ->toBe('1');
})->with(Source::KINDS);

it('finds addresses below parents, in languages, and several for one page', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_tree (id {serial}, parent integer, slug varchar(40), short varchar(40), lang varchar(2));
        insert into w_tree (parent, slug, short, lang) values (null, 'home', null, 'en');
        insert into w_tree (parent, slug, short, lang) values (1, 'visit', 'v', 'en');
        insert into w_tree (parent, slug, short, lang) values (2, 'prices', null, 'en');
        insert into w_tree (parent, slug, short, lang) values (3, 'preise', 'p', 'de');
        insert into w_tree (parent, slug, short, lang) values (6, 'round', null, 'en');
        insert into w_tree (parent, slug, short, lang) values (5, 'about', null, 'en');
        SQL
        ,
    );
    $open = $engine->open(
        <<<'YAML'
        records:
          page:
            table: w_tree
            key: id
            joins: { up: { kind: page, on: parent } }
            spell: { slug: { home: "" }, lang: { en: "" } }
            title: "{slug} under {up.title}"
            address: ["{lang}/{up.address}/{slug}", "{short}"]
        YAML
        ,
    );
    $open->check();
    $records = $engine->records($open, 'page');
    expect(array_map(static fn ($r): array => [$r->address, $r->also], $records))
        ->toBe([
            1 => ['', []],
            2 => ['visit', ['v']],
            3 => ['visit/prices', []],
            4 => ['de/visit/prices/preise', ['p']],
            5 => [$records[5]->address, []],
            6 => [$records[6]->address, []],
        ])
        ->and($records[5]->address)
        ->toContain('round')
        ->and($records[3]->title)
        ->toBe('prices under visit under under');
    // A parent that moves takes its children along, though nothing was written to them.
    $engine->pdo->exec("update w_tree set slug = 'plan' where id = 2");
    $again = $engine->open(
        <<<'YAML'
        records:
          page: { table: w_tree, key: id, joins: { up: { kind: page, on: parent } }, address: "{up.address}/{slug}" }
        YAML
        ,
    );
    expect($engine->records($again, 'page')[3]->address)->toBe('home/plan/prices');
})->with(Source::KINDS);

it('tells the state from numbers, flags, soft deletion and dates in any form', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_state (id {serial}, n integer, shown varchar(5), gone varchar(30), until varchar(30));
        insert into w_state (n, shown, gone, until) values (1, 'true', null, '31.12.2099');
        insert into w_state (n, shown, gone, until) values (1, 'f', '', '31.12.2099');
        insert into w_state (n, shown, gone, until) values (7, '1', '0000-00-00 00:00:00', '');
        insert into w_state (n, shown, gone, until) values (1, '1', '2020-01-01', '');
        insert into w_state (n, shown, gone, until) values (1, '1', null, '31.12.2001');
        insert into w_state (n, shown, gone, until) values (-1, '1', null, null);
        SQL
        ,
    );
    $open = $engine->open(
        <<<'YAML'
        records:
          page:
            table: w_state
            key: id
            address: "{id}"
            state:
              - { column: n, live: [1], fading: [-1], otherwise: waiting }
              - { column: shown, live: [true], waiting: [false] }
              - { column: gone, set: fading }
              - { until: { column: until, as: d.m.Y, zone: Europe/Dublin } }
        YAML
        ,
    );
    $pages = array_values($engine->records($open, 'page'));
    expect(array_map(static fn ($r): string => $r->state->word(), $pages))->toBe([
        'live',
        'waiting',
        'waiting',
        'fading',
        'fading',
        'fading',
    ]);
})->with(Source::KINDS);

it('puts the folder before bare paths, and writes them bare again', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_paths (id {serial}, cover varchar(200), more {text});
        create table w_files (id varchar(36) primary key, dir varchar(60), name varchar(60), gone integer);
        create table w_sizes (file varchar(36), label varchar(20), path varchar(200));
        insert into w_paths (cover, more)
            values ('2019/Größe 1.jpg', '{"a":["x/y.jpg","https://other.example/z.jpg"]}');
        insert into w_files values ('9f-a', '2019', 'pier.jpg', 0), ('9f-b', '2020', 'old.jpg', 1);
        insert into w_sizes values ('9f-a', 'small', 'cache/8d7f.jpg'), ('9f-a', 'large', '/cache/99aa.jpg');
        SQL
        ,
    );
    $map = <<<'YAML'
    media:
      table: w_files
      key: id
      where: "gone = 0"
      path: "uploads/{dir}/{name}"
      title: name
      sizes: { table: w_sizes, media: file, path: "uploads/{path}" }
    records:
      page:
        table: w_paths
        key: id
        address: "{id}"
        fields:
          cover: { notation: url, below: uploads/ }
          more: { notation: json, paths: { "a[]": { notation: url, below: /uploads } } }
    YAML;
    $open = $engine->open($map, '/bay/');
    $open->check();
    $record = $engine->records($open, 'page')[1];
    $media = iterator_to_array($open->media(), false);
    expect(values($record->field('cover')))
        ->toBe(['/bay/uploads/2019/Gr%C3%B6%C3%9Fe%201.jpg'])
        ->and(values($record->field('more')))
        ->toBe(['/bay/uploads/x/y.jpg', 'https://other.example/z.jpg'])
        ->and($media)
        ->toHaveCount(1)
        ->and([$media[0]->id, $media[0]->path, $media[0]->renditions])
        ->toBe(['9f-a', 'uploads/2019/pier.jpg', ['uploads/cache/8d7f.jpg', 'uploads/cache/99aa.jpg']])
        ->and($record->field('cover')?->rules->idsAreWords)
        ->toBeTrue();
})->with(Source::KINDS);

it('follows addresses in schemes of the site\'s own, and sizes in columns beside the path', function (
    string $kind,
): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_pages (id {serial}, cover varchar(200), body {text});
        create table w_files (id {serial}, path varchar(200), thumb varchar(200), wide varchar(200));
        insert into w_pages (cover, body) values ('vault://2019/Größe 1.jpg', '<img src="vault:2019/a.jpg">');
        insert into w_files (path, thumb, wide) values ('vault://2019/Größe 1.jpg', 't1.jpg', '');
        SQL
        ,
    );
    $map = <<<'YAML'
    files: { folders: [uploads], schemes: { vault: uploads } }
    media: { table: w_files, key: id, path: path, sizes: ["uploads/thumbs/{thumb}", wide] }
    records:
      page: { table: w_pages, key: id, address: "{id}", fields: { cover: url, body: html } }
    YAML;
    $open = $engine->open($map);
    $open->check();
    $record = $engine->records($open, 'page')[1];
    $media = iterator_to_array($open->media(), false);
    expect(values($record->field('cover')))
        ->toBe(['/uploads/2019/Gr%C3%B6%C3%9Fe%201.jpg'])
        ->and(values($record->field('body')))
        ->toBe(['/uploads/2019/a.jpg'])
        ->and([$media[0]->path, $media[0]->renditions])
        ->toBe(['uploads/2019/Größe 1.jpg', ['uploads/thumbs/t1.jpg']]);
    // A new row is written as the others are, and whole pictures stand where the site would have made smaller ones.
    $row = $open->addMedia(new NewMedia('uploads/2026/new 2.jpg', 'New', '', 9, 9, []));
    expect([$row->columns['path'], $row->columns['thumb'], $row->columns['wide']])
        ->toBe(['vault://2026/new 2.jpg', null, 'vault://2026/new 2.jpg'])
        ->and(fn () => $open->addMedia(new NewMedia('elsewhere/new.jpg', 'New', '', 9, 9, [])))
        ->toThrow(WriteRefused::class, 'the site looks for what stands there in /uploads/');
})->with(Source::KINDS);

it('writes a new row\'s path as the others write theirs', function (string $kind): void {
    $ways = ['/uploads/a.jpg' => '/', 'https://mill.example/uploads/a.jpg' => 'https://mill.example/'];
    foreach ($ways as $old => $before) {
        $engine = new Engine(
            $kind,
            "create table w_files (id {serial}, path varchar(200));\ninsert into w_files (path) values ('$old');\n",
        );
        $open = $engine->open("media: { table: w_files, key: id, path: path }\nrecords: {}");
        $media = new NewMedia('uploads/b c.jpg', '', '', null, null, []);
        $row = $open->addMedia($media);
        expect($row->columns['path'])
            ->toBe($before.'uploads/b c.jpg')
            ->and($open->mediaMadeFrom($media)?->id)
            ->toBe($row->id)
            ->and(iterator_to_array($open->media(), false)[1]->path)
            ->toBe('uploads/b c.jpg');
    }
})->with(Source::KINDS);

it('reads what is kept in base64, and packs it as it was', function (string $kind): void {
    [$old, $new] = [serialize('<img src="/uploads/größe.jpg">'), serialize('<img src="/uploads/groß.jpg">')];
    $text = "a:2:{s:4:\"html\";{$old}s:2:\"id\";i:7;}";
    $ways = [
        'plain' => base64_encode($text),
        'bare' => rtrim(base64_encode($text), '='),
        'address' => strtr(base64_encode($text), '+/', '-_'),
        'lines' => chunk_split(base64_encode($text), 76, "\n"),
    ];
    $engine = new Engine($kind, 'create table w_packed (name varchar(20) primary key, value {text});');
    foreach ([...$ways, 'other' => 'a:1:{i:0;s:14:"/uploads/a.jpg";}'] as $name => $value) {
        $engine->pdo->prepare('insert into w_packed values (?, ?)')->execute([$name, $value]);
    }
    $open = $engine->open(<<<'YAML'
    records:
      box:
        table: w_packed
        key: name
        fields: { value: { notation: php-serialized, packed: base64, paths: { id: media-id } } }
    YAML);
    $open->check();
    $records = $engine->records($open, 'box');
    foreach (array_keys($ways) as $name) {
        expect(values($records[$name]->field('value')))->toBe(['/uploads/größe.jpg', '7'], $name);
        $failure = $engine->replace($open, 'box', $name, 'value', $old, $new);
        $left = (string) $engine->value("select value from w_packed where name = '$name'");
        expect($failure)->toBeNull()->and($left)->not->toBe($ways[$name]);
        $back = $engine->replace($open, 'box', $name, 'value', $new, $old);
        expect($back)
            ->toBeNull()
            ->and($engine->value("select value from w_packed where name = '$name'"))
            ->toBe($ways[$name]);
    }
    // What is not packed is read as the text that it is, and left alone.
    expect($records['other']->field('value')?->fixed)
        ->toContain('is not base64')
        ->and(values($records['other']->field('value')))
        ->toBe(['/uploads/a.jpg'])
        ->and($engine->replace($open, 'box', 'other', 'value', 'a.jpg', 'z.jpg'))
        ->toBeInstanceOf(WriteRefused::class);
})->with(Source::KINDS);

it('takes words in languages from json, letters of a name for folders, and lists in arrays', function (
    string $kind,
): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_files (id {serial}, sha varchar(40), kind varchar(5));
        create table w_pages (id {serial}, slug {text}, name {text}, pics {text});
        insert into w_files (sha, kind) values ('abcdef0123', 'jpg');
        insert into w_pages (slug, name, pics)
            values ('{"en":"pier","cy":"pier-cy"}', '{"en":"The pier"}', '{/uploads/a.jpg,"/uploads/b c.jpg"}');
        insert into w_pages (slug, name, pics) values ('{"en":"mole"}', '{"cy":"Morglawdd"}', null);
        insert into w_pages (slug, name, pics) values ('no json', '', '/uploads/a.jpg, /uploads/c.jpg');
        SQL
        ,
    );
    $open = $engine->open(
        <<<'YAML'
        media:
          table: w_files
          key: id
          path: "uploads/{sha.1-2}/{sha.3-4}/{sha}.{kind}"
          page: ["files/{id}/*", "?pic={id}"]
        records:
          page:
            table: w_pages
            key: id
            title: "{name->en|untitled}"
            address: ["{slug->en}", "cy/{slug->cy}"]
            fields: { pics: addresses }
        YAML
        ,
    );
    $open->check();
    $records = $engine->records($open, 'page');
    expect(iterator_to_array($open->media(), false)[0]->path)
        ->toBe('uploads/ab/cd/abcdef0123.jpg')
        ->and(array_map(static fn (SourceRecord $r): array => [$r->title, $r->address, $r->also], $records))
        ->toBe([
            1 => ['The pier', 'pier', ['cy/pier-cy']],
            2 => ['untitled', 'mole', []],
            3 => ['untitled', null, []],
        ])
        ->and(values($records[1]->field('pics')))
        ->toBe(['/uploads/a.jpg', '/uploads/b c.jpg'])
        ->and(values($records[3]->field('pics')))
        ->toBe(['/uploads/a.jpg', '/uploads/c.jpg'])
        // Nobody can tell of a path which hash the site would call it by.
        ->and(fn () => $open->addMedia(new NewMedia('uploads/ab/cd/x.jpg', 'New', '', 9, 9, [])))
        ->toThrow(WriteRefused::class, 'the media table cannot say this path');
})->with(Source::KINDS);

it('says which files the site finds by a row\'s values, never the folder above', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_sets (id {serial}, folder varchar(60), made varchar(10));
        insert into w_sets (folder, made) values ('/fair 2009/', '2009-06-01');
        insert into w_sets (folder, made) values ('', '2010-06-01');
        insert into w_sets (folder, made) values ('..', null);
        insert into w_sets (folder, made) values (null, null);
        SQL
        ,
    );
    $map = <<<'YAML'
    records:
      gallery:
        table: w_sets
        key: id
        shows: ["galleries/{folder}/*", "covers/{made.year}/{id}.*", "pics/s_{id}.jpg"]
    YAML;
    $open = $engine->open($map);
    $open->check();
    expect(array_map(static fn (SourceRecord $r): array => $r->shows, $engine->records($open, 'gallery')))
        ->toBe([
            1 => ['galleries/fair 2009/*', 'covers/2009/1.*', 'pics/s_1.jpg'],
            2 => ['covers/2010/2.*', 'pics/s_2.jpg'],
            3 => ['pics/s_3.jpg'],
            4 => ['pics/s_4.jpg'],
        ])
        ->and(fn () => $engine->open(str_replace('{folder}/*', '*/x', $map)))
        ->toThrow(FieldMapError::class, 'paths of files belong here with columns in braces')
        ->and(fn () => $engine->open(str_replace('{folder}', '{foldr}', $map))->check())
        ->toThrow(FieldMapError::class, 'foldr');
})->with(Source::KINDS);

it('reads keys that say themselves of what they are', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_pages (id {serial}, name varchar(20));
        create table w_boxes (id {serial}, shows varchar(60), owner varchar(20), body {text});
        insert into w_pages (name) values ('Home');
        insert into w_boxes (shows, owner, body) values ('picture/12, page/1', 'page:1', '<img src="/uploads/a.jpg">');
        insert into w_boxes (shows, owner, body) values ('pictures/12', 'post:1', '');
        SQL
        ,
    );
    $map = <<<'YAML'
    records:
      page: { table: w_pages, key: id, title: name, address: "{name}" }
      box:
        table: w_boxes
        key: id
        part_of: { owner: { between: ":", page: page } }
        fields:
          shows: { notation: record-key, names: { between: /, picture: media, page: page } }
          body: html
    YAML;
    $open = $engine->open($map);
    $open->check();
    $records = $engine->records($open, 'box');
    $shown = (new FieldReader())->read(
        'picture/12, page/1',
        $records[1]->field('shows')->notation,
        $records[1]->field('shows')->rules,
    )->references;
    expect(array_map(static fn ($r): array => [$r->value, $r->names, $r->target], $shown))
        ->toBe([['12', Names::MediaItem, null], ['1', Names::Record, 'page']])
        ->and($records[1]->owners)
        ->toEqual([new Owner('owner', 'page', '1')])
        ->and(values($records[2]->field('shows')))
        ->toBe([])
        ->and($records[2]->owners)
        ->toBe([])
        ->and($engine->replace($open, 'box', '1', 'shows', '12', '14'))
        ->toBeNull()
        ->and($engine->value('select shows from w_boxes where id = 1'))
        ->toBe('picture/14, page/1')
        ->and(fn () => $engine->open(str_replace('page: page } }', 'page: pge } }', $map)))
        ->toThrow(FieldMapError::class, 'name one of the kinds of this map')
        ->and(fn () => $engine->open(str_replace('notation: record-key, names', 'notation: url, names', $map)))
        ->toThrow(FieldMapError::class, 'of "record-key" only');
})->with(Source::KINDS);

it('reads and writes values whose names are rows of another table', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_traits (id {serial}, code varchar(20));
        create table w_trait_values (id {serial}, page integer, trait integer, value {text}, note {text});
        insert into w_traits (code) values ('colour'), ('photo'), ('side_html');
        insert into w_trait_values (page, trait, value, note) values (1, 1, '#fff', '<img src="/uploads/n.jpg">');
        insert into w_trait_values (page, trait, value, note) values (1, 2, '12', '<img src="/uploads/n.jpg">');
        insert into w_trait_values (page, trait, value, note) values (2, 3, '<img src="/uploads/a.jpg">', '');
        SQL
        ,
    );
    $open = $engine->open(
        <<<'YAML'
        records:
          trait:
            table: w_trait_values
            key: id
            joins: { trait: { table: w_traits, on: { id: trait } } }
            fields:
              value: { by: trait.code, of: { photo: { notation: media-id, role: photo }, "*_html": html } }
              note: html
        YAML
        ,
    );
    $open->check();
    $records = $engine->records($open, 'trait');
    expect(array_map(static fn (SourceRecord $r): array => values($r->field('value')), $records))
        ->toBe([1 => [], 2 => ['12'], 3 => ['/uploads/a.jpg']])
        ->and($engine->replace($open, 'trait', '3', 'value', 'a.jpg', 'z.jpg'))
        ->toBeNull()
        ->and($engine->replace($open, 'trait', '2', 'value', '12', '14'))
        ->toBeNull()
        // Another column of a row whose value nobody reads, and of one whose value is read as well.
        ->and($engine->replace($open, 'trait', '1', 'note', 'n.jpg', 'm.jpg'))
        ->toBeNull()
        ->and($engine->replace($open, 'trait', '2', 'note', 'n.jpg', 'm.jpg'))
        ->toBeNull()
        ->and($engine->pdo->query('select value, note from w_trait_values order by id')->fetchAll(PDO::FETCH_NUM))
        ->toBe([
            ['#fff', '<img src="/uploads/m.jpg">'],
            ['14', '<img src="/uploads/m.jpg">'],
            ['<img src="/uploads/z.jpg">', ''],
        ]);
})->with(Source::KINDS);

it('puts folders before bare paths that other columns of the row say, and writes within them', function (
    string $kind,
): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_folders (id {serial}, team integer, img varchar(60), more {text});
        insert into w_folders (team, img, more) values (4, 'a.jpg', '{"p":"b.jpg"}');
        insert into w_folders (team, img, more) values (null, 'c.jpg', null);
        SQL
        ,
    );
    $open = $engine->open(
        <<<'YAML'
        records:
          person:
            table: w_folders
            key: id
            fields:
              img: { notation: url, below: "people/{team}" }
              more: { notation: json, paths: { p: { notation: url, below: "people/{team}/more/" } } }
        YAML
        ,
    );
    $open->check();
    $records = $engine->records($open, 'person');
    expect(values($records['1']->field('img')))
        ->toBe(['/people/4/a.jpg'])
        ->and(values($records['1']->field('more')))
        ->toBe(['/people/4/more/b.jpg'])
        // A part that is empty leaves no slash behind.
        ->and(values($records['2']->field('img')))
        ->toBe(['/people/c.jpg']);
    expect($engine->replace($open, 'person', '1', 'img', 'a.jpg', 'z.jpg'))
        ->toBeNull()
        ->and($engine->value('select img from w_folders where id = 1'))
        ->toBe('z.jpg');
})->with(Source::KINDS);

it('gives the first records, and counts so far, without the others', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_many (id {serial}, part varchar(10), body {text});
        insert into w_many (part, body) values ('a', '1'), ('a', '2'), ('b', '3'), ('c', '4');
        SQL
        ,
    );
    $open = $engine->open(
        <<<'YAML'
        records:
          page: { table: w_many, key: id, where: "body <> '1'", fields: { body: html } }
          part: { table: w_many, key: part, distinct: true }
        YAML
        ,
    );
    $keys = static fn (string $kind, int $count): array => array_map(
        static fn (SourceRecord $record): string => $record->key,
        iterator_to_array($open->first($kind, $count), false),
    );
    expect($keys('page', 2))
        ->toBe(['2', '3'])
        ->and($keys('page', 9))
        ->toBe(['2', '3', '4'])
        ->and($keys('part', 2))
        ->toBe(['a', 'b'])
        ->and([$open->count('page'), $open->count('page', 2), $open->count('part'), $open->count('part', 2)])
        ->toBe([3, 2, 3, 2]);
})->with(Source::KINDS);

it('says something else where a column is empty', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_else (id {serial}, parent integer, slug varchar(40));
        insert into w_else (parent, slug) values (null, 'about');
        insert into w_else (parent, slug) values (1, 'team');
        SQL
        ,
    );
    $open = $engine->open(
        <<<'YAML'
        records:
          page:
            table: w_else
            key: id
            joins: { up: { kind: page, on: parent } }
            title: "{slug}{parent| (at the top)}"
            address: "{up.address|en}/{slug}"
        YAML
        ,
    );
    $open->check();
    $records = $engine->records($open, 'page');
    expect(array_map(static fn ($r): array => [$r->address, $r->title], $records))
        ->toBe(['1' => ['en/about', 'about (at the top)'], '2' => ['en/about/team', 'team1']]);
})->with(Source::KINDS);

it('has ids in arrays of the database\'s own', function (): void {
    $engine = new Engine(
        'pgsql',
        <<<'SQL'
        create table w_arrays (id {serial}, pics integer[], names text[]);
        insert into w_arrays (pics, names) values ('{3,14}', '{"a","b c"}');
        SQL
        ,
    );
    $open = $engine->open(
        <<<'YAML'
        records:
          page: { table: w_arrays, key: id, fields: { pics: media-id, names: { notation: record-key, names: page } } }
        YAML
        ,
    );
    $open->check();
    $record = $engine->records($open, 'page')['1'];
    expect(values($record->field('pics')))->toBe(['3', '14']);
    expect($engine->replace($open, 'page', '1', 'pics', '14', '15'))
        ->toBeNull()
        ->and($engine->value('select pics from w_arrays'))
        ->toBe('{3,15}');
});

it('has keys of bytes, and ids that are words', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_bytes (id {bytes} primary key, picture {bytes}, body {text});
        SQL
        ,
    );
    $insert = $engine->pdo->prepare('insert into w_bytes values (?, ?, ?)');
    foreach (["\x00\x01\xFF", "\x02\x7F", 'AB'] as $n => $id) {
        foreach ([$id, "\xCA\xFE"] as $i => $bytes) {
            $insert->bindValue($i + 1, $bytes, PDO::PARAM_LOB);
        }
        $insert->bindValue(3, "<img src=\"/uploads/$n.jpg\">");
        $insert->execute();
    }
    $open = $engine->open(
        <<<'YAML'
        media: { table: w_bytes, key: id, path: body }
        records:
          page: { table: w_bytes, key: id, address: "{id}", fields: { body: html, picture: media-id } }
        YAML
        ,
    );
    $open->check();
    $records = $engine->records($open, 'page');
    expect(array_map(strval(...), array_keys($records)))
        ->toBe(['0001ff', '027f', '4142'])
        ->and(values($records['027f']->field('picture')))
        ->toBe(['cafe'])
        ->and($engine->replace($open, 'page', '0001ff', 'picture', 'cafe', 'beef'))
        ->toBeNull()
        ->and($engine->replace($open, 'page', '0001ff', 'body', '0.jpg', 'z.jpg'))
        ->toBeNull()
        ->and(bin2hex((string) $engine->value("select picture from w_bytes where body like '%z.jpg%'")))
        ->toBe('beef')
        ->and(array_map(static fn ($m): string => $m->id, iterator_to_array($open->findMedia(['027f', 'zz']), false)))
        ->toBe(['027f']);
})->with(Source::KINDS);

it('never writes what the map says is only read', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_kept (id {serial}, body {text}, more {text});
        insert into w_kept (body, more) values ('<img src="/uploads/a.jpg">', '<img src="/uploads/a.jpg">');
        SQL
        ,
    );
    $open = $engine->open(
        <<<'YAML'
        records:
          page:
            table: w_kept
            key: id
            address: "{id}"
            fields: { body: html, more: { notation: html, read_only: true } }
          copy: { table: w_kept, key: id, read_only: true, fields: { body: html } }
        YAML
        ,
    );
    expect($engine->replace($open, 'page', '1', 'body', 'a.jpg', 'z.jpg'))
        ->toBeNull()
        ->and($engine->replace($open, 'page', '1', 'more', 'a.jpg', 'z.jpg'))
        ->toBeInstanceOf(WriteRefused::class)
        ->and($engine->replace($open, 'copy', '1', 'body', 'z.jpg', 'y.jpg')?->getMessage())
        ->toContain('never written (records.copy.read_only)')
        ->and($engine->value('select body from w_kept'))
        ->toBe('<img src="/uploads/z.jpg">')
        ->and($engine->value('select more from w_kept'))
        ->toBe('<img src="/uploads/a.jpg">');
})->with(Source::KINDS);

it('refuses keys that name no one record, and says why', function (string $kind, string $key, string $why): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_keys (a integer, b integer, half double precision, twice integer, body {text}, unique (a, b));
        insert into w_keys values (1, 1, 0.5, 3, 'x'), (1, 2, 1.5, 3, 'y'), (2, null, 2.5, 4, 'z');
        SQL
        ,
    );
    $map = "records: { page: { table: w_keys, key: $key, fields: { body: html } } }";
    expect(fn () => $engine->open($map)->check())->toThrow(FieldMapError::class, $why);
})
    ->with(Source::KINDS)
    ->with([
        ['half', 'rounded'],
        ['a', 'key: [a, b]'],
        ['twice', 'not unique: more than one row has "3"'],
        ['missing', 'no column "missing"'],
    ]);

it('writes a part of a key: once, never over another row, and back again', function (string $kind): void {
    $engine = new Engine(
        $kind,
        <<<'SQL'
        create table w_tied (page integer, picture integer, role varchar(20), changed varchar(20),
            primary key (page, picture));
        insert into w_tied values (1, 10, 'lead', 'long ago'), (1, 30, 'side', 'long ago'), (2, 10, 'lead', 'long ago');
        SQL
        ,
    );
    $open = $engine->open(
        <<<'YAML'
        records:
          placed: { table: w_tied, key: [page, picture], keep: [changed], fields: { picture: media-id, role: text } }
        YAML
        ,
    );
    $open->check();
    $step = static function (string $key, string $to) use ($open): EditRecord {
        foreach ($open->find('placed', [$key]) as $record) {
            $edits = Edits::of([new Edit(0, (string) $record->field('picture')?->text, $to)]);

            return EditRecord::of($record, [
                'picture' => FieldEdits::of((string) $record->field('picture')?->text, $edits),
            ]);
        }
        throw new RuntimeException("There is no $key.");
    };
    $carry = static fn (EditRecord $s): ?Failure => $open->replaceMany('placed', [
        new Replacement(
            $s->key,
            $s->before,
            (string) $s->after,
            array_map(static fn (FieldEdits $f): Edits => $f->edits, $s->fields),
            $s->moved,
        ),
    ])[0];
    $rows = static fn (): string => implode(' ', array_map(
        static fn (array $row): string => implode('/', $row),
        $engine->pdo->query('select * from w_tied order by page, picture')->fetchAll(PDO::FETCH_NUM),
    ));
    $before = $rows();
    $edit = $step('1/10', '20');
    expect($edit->moved)
        ->toBe('1/20')
        ->and($carry($edit))
        ->toBeNull()
        ->and($rows())
        ->toBe('1/20/lead/long ago 1/30/side/long ago 2/10/lead/long ago')
        // Again, as after a process that was killed before it could say that it was done.
        ->and($carry($edit))
        ->toBeNull()
        ->and($carry($step('1/20', '30'))?->getMessage())
        ->toContain('there is one with the key "1/30" already')
        ->and($carry($edit->inverse()))
        ->toBeNull()
        ->and($rows())
        ->toBe($before);
    // Somebody else took it away.
    $engine->pdo->exec('delete from w_tied where page = 2');
    $gone = new EditRecord('placed', '2/10', 'x', $edit->before, $edit->after, $edit->fields, [], '2/20');
    expect($carry($gone))->toBeInstanceOf(RecordChanged::class);
})->with(Source::KINDS);

it('does not write a part of a key by which other records name one', function (string $kind): void {
    $engine = new Engine(
        $kind,
        "create table w_sets (code varchar(20) primary key, cover varchar(20));\n"
            ."insert into w_sets values ('a', '3');\n",
    );
    $open = $engine->open(
        <<<'YAML'
        records:
          set: { table: w_sets, key: code, fields: { code: media-id } }
          other: { table: w_sets, key: cover, fields: { cover: { notation: record-key, names: set } } }
        YAML
        ,
    );
    $record = $engine->records($open, 'set')['a'];
    expect($record->field('code')?->fixed)
        ->toContain('by which other records name it')
        ->and($engine->records($open, 'other')['3']->field('cover')?->fixed)
        ->toBeNull();
})->with(Source::KINDS);

it('refuses a map that takes its reader too long, and quotes no more of it than a person reads', function (): void {
    $head = "version: 1\nfiles: { folders: [media] }\n";
    expect(fn () => FieldMap::parse($head.str_repeat("# a\n", 180_000)))
        ->toThrow(FieldMapError::class, 'it has 720,039 bytes, and 262,144 are the most');
    $kinds = '';
    for ($n = 0; strlen($kinds) < 250_000; $n++) {
        $kinds .= "  k$n: { table: t$n, key: id, title: t, fields: { body: html } }\n";
    }
    $spent = Growth::spent();
    expect(FieldMap::parse("{$head}records:\n$kinds")->kinds)->toHaveCount($n)
        ->and(Growth::spent() - $spent)->toBeLessThan(5);
    try {
        FieldMap::parse("{$head}records: {}\nencoding: ".str_repeat('x', 200_000));
    } catch (FieldMapError $e) {
        expect(mb_strlen($e->getMessage()))->toBeLessThan(700);
    }
});
