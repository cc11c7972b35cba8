<?php

declare(strict_types=1);

use App\Sites\FieldMapError;
use Tests\App\Sources\Source;
use Ylema\Sites\NewMedia;
use Ylema\Sites\WriteRefused;
use Ylema\Usage\RecordState;

/*
 * One set of cases for every database that Ylema reads: what holds on one holds on all.
 */

it('reads and writes whatever characters a text has', function (string $kind, string $body): void {
    $source = new Source($kind);
    $key = $source->add($body);
    $open = $source->open();
    expect($source->record($open, $key)->field('body')?->text)
        ->toBe($body)
        ->and($source->replace($open, $key, '/media/a.jpg', '/media/bc.jpg'))
        ->toBeNull()
        ->and($source->column($key, 'body'))
        ->toBe(str_replace('/media/a.jpg', '/media/bc.jpg', $body));
})
    ->with(Source::KINDS)
    ->with([
        'letters of all kinds' => '<p>Größe 水 Ђ</p><img src="/media/a.jpg">',
        'an emoji' => '<p>🦆🦆</p><img src="/media/a.jpg">',
        'quotes and backslashes' => "<p>\\' \" \\\\ ? :x \$1</p><img src='/media/a.jpg'>",
    ]);

it('writes many records in one batch, and leaves out only what it must', function (string $kind): void {
    $source = new Source($kind);
    $open = $source->open();
    $keys = array_map(static fn (int $n): string => $source->add("<p>$n</p><img src=\"/media/a.jpg\">"), range(1, 300));
    $seen = [];
    foreach ($open->find('page', $keys) as $record) {
        $seen[$record->key] = $record;
    }
    expect($seen)->toHaveCount(300);
    $source->pdo->exec("update pages set body = 'by somebody else' where id = $keys[7]");
    $source->pdo->exec("delete from pages where id = $keys[9]");
    $list = array_map(static function (string $key) use ($seen): Ylema\Sites\Replacement {
        $text = $seen[$key]->fields[0]->text;
        $edits = Ylema\Change\Edits::of([new Ylema\Change\Edit(strpos($text, 'a.jpg'), 'a.jpg', 'b.jpg')]);

        return new Ylema\Sites\Replacement(
            $key,
            $seen[$key]->contentHash,
            Ylema\Sites\SourceRecord::hashOf(['body' => $edits->applyTo($text)]),
            ['body' => $edits],
        );
    }, $keys);
    $results = $open->replaceMany('page', $list);
    expect(array_keys(array_filter($results)))
        ->toBe([7, 9])
        ->and($results[7]?->getMessage())
        ->toContain('changed by someone else')
        ->and($results[9]?->getMessage())
        ->toContain('no longer exists')
        ->and((int) $source->pdo->query("select count(*) from pages where body like '%b.jpg%'")->fetchColumn())
        ->toBe(298)
        ->and($source->column($keys[7], 'body'))
        ->toBe('by somebody else');
})->with(Source::KINDS);

it('keeps serialized text with NULs whole, where the database can hold it', function (string $kind): void {
    $source = new Source($kind);
    $extras = serialize(['a' => "x\0y", 'hero' => '<img src="/media/a.jpg">']);
    $key = $source->add('<p></p>', $extras);
    $open = $source->open();
    $at = (int) strpos($extras, 's:24:');
    expect($source->record($open, $key)->field('extras')?->text)
        ->toBe($extras)
        ->and(
            $source->replace(
                $open,
                $key,
                's:24:"<img src="/media/a.jpg">"',
                's:25:"<img src="/media/ab.jpg">"',
                'extras',
            ),
        )
        ->toBeNull()
        ->and(unserialize((string) $source->column($key, 'extras')))
        ->toBe(['a' => "x\0y", 'hero' => '<img src="/media/ab.jpg">'])
        ->and($at)
        ->toBeGreaterThan(0);
})->with(['mysql', 'sqlite']);

it('refuses what would not be stored as it is, and takes nothing of it', function (
    string $kind,
    string $column,
    string $to,
): void {
    $source = new Source($kind);
    if ($kind === 'mysql') {
        // A server that cuts off what is too long, and says nothing.
        $source->pdo->exec("set global sql_mode = ''");
    }
    try {
        $source->pdo->exec(
            $kind === 'mysql'
                ? "alter table pages modify body $column"
                : 'alter table pages alter column body type varchar(40)',
        );
        $key = $source->add('<img src="/media/a.jpg">');
        $other = $source->add('<img src="/media/a.jpg"> too');
        $failure = $source->replace($source->open(), $key, 'a.jpg', $to);
        expect($failure)
            ->toBeInstanceOf(WriteRefused::class)
            ->and($source->column($key, 'body'))
            ->toBe('<img src="/media/a.jpg">')
            ->and($source->replace($source->open(), $other, 'a.jpg', 'b.jpg'))
            ->toBeNull();
    } finally {
        $kind === 'mysql' && $source->pdo->exec('set global sql_mode = default');
    }
})->with([
    'too long for the column' => ['mysql', 'varchar(40)', 'a-name-that-is-much-too-long-for-it.jpg'],
    'characters that the column has not' => ['mysql', 'varchar(200) character set latin1', '水.jpg'],
    'too long, and said so' => ['pgsql', '', 'a-name-that-is-much-too-long-for-it.jpg'],
]);

it('refuses what a connection in another character set would spoil', function (): void {
    $source = new Source('mysql');
    $key = $source->add('<img src="/media/a.jpg">');
    $source->pdo->exec("set global sql_mode = ''");
    try {
        $failure = $source->replace($source->open(more: ';charset=ascii'), $key, 'a.jpg', 'é.jpg');
    } finally {
        $source->pdo->exec('set global sql_mode = default');
    }
    expect($failure)
        ->toBeInstanceOf(WriteRefused::class)
        ->and($source->column($key, 'body'))
        ->toBe('<img src="/media/a.jpg">');
});

it('writes a row of fifty megabytes', function (string $kind): void {
    $source = new Source($kind);
    $key = $source->add('<img src="/media/a.jpg">'.str_repeat('<p>tide </p>', 4_400_000));
    expect($source->replace($source->open(), $key, 'a.jpg', 'b.jpg'))
        ->toBeNull()
        ->and(substr((string) $source->column($key, 'body'), 0, 24))
        ->toBe('<img src="/media/b.jpg">');
})->with(Source::KINDS);

it('says what a user without the right may not do, and what to do about it', function (): void {
    $source = new Source('mysql');
    $key = $source->add('<img src="/media/a.jpg">');
    $open = $source->open(user: 'looker');
    expect($source->replace($open, $key, 'a.jpg', 'b.jpg')?->getMessage())
        ->toContain('"looker"')
        ->toContain('Grant it the right')
        ->and($source->column($key, 'body'))
        ->toContain('a.jpg');
});

it('names line and cure where table, column or right is missing', function (
    string $kind,
    array $changes,
    string $says,
): void {
    $source = new Source($kind);
    expect(fn () => $source->open($changes)->check())->toThrow(FieldMapError::class, $says);
})
    ->with(Source::KINDS)
    ->with([
        'no such table' => [['table: pages' => 'table: pagez'], 'line 6, records.page.table'],
        'no such column' => [['fields: { body: html' => 'fields: { text: html'], 'line 11, records.page.fields.text'],
        'no such column for a date' => [['from: starts' => 'from: begins'], 'line 10, records.page.state'],
        'no such column of the list of media' => [['alt: alt' => 'alt: words'], 'line 2, media.alt'],
    ]);

it('refuses a key that does not name one record', function (string $kind, string $table, string $says): void {
    $source = new Source($kind);
    $source->pdo->exec($table);
    expect(
        fn () => $source
            ->open([
                'table: pages' => 'table: extra',
                'title: name' => 'title: id',
                'address: "{id}"' => 'address: "{id}"',
                'state: { column: state, live: [out], waiting: [draft], from: starts, until: { column: ends, as: '
                    .'unix } }' => 'state: live',
                'fields: { body: html, extras: php-serialized }' => 'fields: { body: html }',
            ])
            ->check(),
    )->toThrow(FieldMapError::class, $says);
})
    ->with(Source::KINDS)
    ->with([
        'one part of a key' => [
            'create table extra (id integer, lang varchar(5), body text, primary key (id, lang))',
            'only one part of the key',
        ],
        'twice the same' => [
            'create table extra as select 1 as id, body from pages where 1 = 0 union all select 1, \'a\' union all '
                .'select 1, \'b\'',
            'is not unique',
        ],
    ]);

it('tells keys apart that a collation takes for one', function (): void {
    $source = new Source('mysql');
    $source->pdo->exec(
        'create table extra (id varchar(40) character set utf8mb4 collate utf8mb4_bin primary key, body text) '
            .'character set utf8mb4 collate utf8mb4_unicode_ci',
    );
    $source->pdo->exec(
        "insert into extra values ('apfel', '<img src=\"/media/a.jpg\">'), ('äpfel', '<img src=\"/media/a.jpg\"> "
            ."other')",
    );
    $open = $source->open([
        'table: pages' => 'table: extra',
        'title: name' => 'title: id',
        'state: { column: state, live: [out], waiting: [draft], from: starts, until: { column: ends, as: unix } '
            .'}' => 'state: live',
        'fields: { body: html, extras: php-serialized }' => 'fields: { body: html }',
    ]);
    $open->check();
    expect($source->record($open, 'äpfel')->fields[0]->text)
        ->toEndWith('other')
        ->and($source->replace($open, 'äpfel', 'a.jpg', 'b.jpg'))
        ->toBeNull()
        ->and($source->pdo->query("select count(*) from extra where body like '%b.jpg%'")->fetchColumn())
        ->toEqual(1);
});

it('lets columns that stamp themselves stay as they were, if the map says so, and says it otherwise', function (
    string $kind,
    array $stamp,
): void {
    $source = new Source($kind);
    $key = $source->add('<img src="/media/a.jpg">');
    foreach ($stamp as $statement) {
        $source->pdo->exec($statement);
    }
    $before = $source->column($key, 'changed_at');
    $keep = ['fields: { body' => "keep: [changed_at]\n    fields: { body"];
    expect($source->open()->stamps('page'))
        ->toHaveCount(1)
        ->and($source->open()->stamps('page')[0])
        ->toContain('records.page.keep')
        ->and($source->open($keep)->stamps('page'))
        ->toBe([])
        ->and($source->replace($source->open($keep), $key, 'a.jpg', 'b.jpg'))
        ->toBeNull()
        ->and($source->column($key, 'changed_at'))
        ->toBe($before)
        ->and($source->replace($source->open(), $key, 'b.jpg', 'c.jpg'))
        ->toBeNull()
        ->and($source->column($key, 'changed_at'))
        ->not->toBe($before);
})->with([
    'on update' => [
        'mysql',
        [
            'alter table pages modify changed_at datetime(6) default current_timestamp(6) on update '
                .'current_timestamp(6)',
            "update pages set changed_at = '2020-02-02 02:02:02.123456'",
        ],
    ],
    'a trigger for what was written' => [
        'pgsql',
        [
            "create or replace function stamp() returns trigger language plpgsql as 'begin if new.body is distinct "
                ."from old.body then new.changed_at = now(); end if; return new; end'",
            'create trigger stamp before update on pages for each row execute function stamp()',
        ],
    ],
    'a trigger behind it' => [
        'sqlite',
        [
            "create trigger stamp after update of body on pages begin update pages set changed_at = datetime('now') "
                .'where id = new.id; end',
        ],
    ],
]);

it('refuses a write where a trigger sets anew whatever the map says to keep', function (): void {
    $source = new Source('pgsql');
    $key = $source->add('<img src="/media/a.jpg">');
    $source->pdo->exec(
        "create or replace function stamp() returns trigger language plpgsql as 'begin new.changed_at = "
            ."clock_timestamp(); return new; end'",
    );
    $source->pdo->exec('create trigger stamp before update on pages for each row execute function stamp()');
    expect(
        $source
            ->replace(
                $source->open(['fields: { body' => "keep: [changed_at]\n    fields: { body"]),
                $key,
                'a.jpg',
                'b.jpg',
            )
            ?->getMessage(),
    )
        ->toContain('sets changed_at anew')
        ->and($source->column($key, 'body'))
        ->toContain('a.jpg');
});

it('knows by moments of any spelling whether a record is out', function (string $kind): void {
    $source = new Source($kind);
    $open = $source->open();
    $now = time();
    foreach (
        [
            [null, null, RecordState::Live],
            ['2999-01-01 00:00:00.5', null, RecordState::Waiting],
            [null, $now - 60, RecordState::Fading],
            [null, $now + 3600, RecordState::Live],
            [null, 0, RecordState::Live],
            ['2001-01-01 00:00:00', $now + 60, RecordState::Live],
        ] as [$from, $until, $state]
    ) {
        $key = $source->add('x');
        $source->pdo->prepare('update pages set starts = ?, ends = ? where id = ?')->execute([$from, $until, $key]);
        expect($source->record($open, $key)->state)->toBe($state);
    }
})->with(Source::KINDS);

it('adds a media row under the number that the database gives, and takes away only that row', function (
    string $kind,
): void {
    $source = new Source($kind);
    $open = $source->open();
    $row = $open->addMedia(
        new NewMedia('media/ü.jpg', 'Ü', '', 30, 20, [['path' => 'media/ü.w3.jpg', 'width' => 3, 'height' => 2]]),
    );
    expect($row->id)->toBe('2')->and($open->mediaRow('2'))->toEqual($row);
    $open->changeMedia('2', ['alt' => ''], ['alt' => 'a boat']);
    expect(fn () => $open->changeMedia('2', ['alt' => ''], ['alt' => 'another']))
        ->toThrow(Ylema\Sites\RecordChanged::class)
        ->and(fn () => $open->removeMedia($row))
        ->toThrow(Ylema\Sites\RecordChanged::class);
    $open->removeMedia($open->mediaRow('2'));
    expect($open->mediaRow('2'))->toBeNull()->and($open->mediaRow('no number'))->toBeNull();
})->with(Source::KINDS);
