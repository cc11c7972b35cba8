<?php

declare(strict_types=1);

use App\Media\Uploads;
use App\Models\Role;
use App\Sites\FieldMap;
use App\Sites\FieldMapError;
use App\Sites\FlysystemStore;
use App\Sites\PdoContentSource;
use App\Support\BulkRows;
use App\Vault\Vault;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use League\Flysystem\Filesystem;
use League\Flysystem\Local\LocalFilesystemAdapter;
use Standin\Content\Catalogue;
use Ylema\Change\Edit;
use Ylema\Change\Edits;
use Ylema\Imaging\UploadRefused;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Sites\FileMissing;
use Ylema\Sites\KeyRange;
use Ylema\Sites\NewMedia;
use Ylema\Sites\RecordChanged;
use Ylema\Sites\Replacement;
use Ylema\Sites\SourceRecord;
use Ylema\Sites\SourceUnavailable;
use Ylema\Usage\RecordState;

const SMALL_MAP = <<<'YAML'
version: 1
media: { table: pictures, key: id, path: path, title: title, alt: alt, renditions: sizes, width: w, height: h }
files: { folders: [/media/] }
records:
  page:
    table: pages
    where: "trash = 0"
    key: id
    title: name
    address: "{slug}"
    state: { column: state, live: [out], waiting: [draft], fading: [gone], from: starts, until: ends }
    facts: { Begins: starts }
    fields:
      body: html
      cover: { notation: media-id, role: featured }
      shows: { notation: record-key, names: { column: what, strip: strip, other: page } }
  strip: { table: strips, key: code, state: fading, fields: { body: html } }
YAML;

/** The port over SQLite, so that nothing in it leans on one database. */
function sqlite(object $test): PdoContentSource
{
    $file = tempnam(sys_get_temp_dir(), 'ylema-sqlite');
    $test->database = new PDO("sqlite:$file");
    $test->database->exec(
        <<<'SQL'
        create table pages (id integer primary key, name text, slug text, body text, cover integer, shows text,
            what text, state text, starts text, ends text, trash integer default 0);
        create table strips (code text primary key, body text);
        create table pictures (id integer primary key, path text, title text, alt text, sizes text, w integer,
            h integer);
        insert into strips values ('top', '<img src=/media/s.png>');
        insert into pictures values
            (4, '/media/a.jpg', 'A', 'an a', '["media/a-1x1.jpg", {"path": "media/a-2x2.jpg"}]', 9, 9);
        SQL
        ,
    );
    for ($i = 1; $i <= 7; $i++) {
        $test->database->exec(
            "insert into pages (id, name, slug, body, state) values ($i, 'Page $i', 'p$i', '<p>$i</p>', 'out')",
        );
    }

    return new PdoContentSource(FieldMap::parse(SMALL_MAP), "sqlite:$file", '', '');
}

function row(PdoContentSource $source, string $key): SourceRecord
{
    return iterator_to_array(
        (function () use ($source, $key) {
            yield from $source->find('page', [$key]);
        })(),
        false,
    )[0];
}

describe('a content database', function (): void {
    it('names its kinds and counts what the map includes', function (): void {
        $source = sqlite($this);
        $this->database->exec('update pages set trash = 1 where id = 7');
        expect($source->kinds())
            ->toBe(['page', 'strip'])
            ->and($source->count('page'))
            ->toBe(6)
            ->and($source->count('strip'))
            ->toBe(1);
    });

    it('cuts records into ranges that together hold each record once', function (int $size, int $ranges): void {
        $source = sqlite($this);
        $keys = [];
        $count = 0;
        foreach ($source->ranges('page', $size) as $range) {
            $count++;
            foreach ($source->records('page', $range) as $record) {
                $keys[] = $record->key;
            }
        }
        expect($keys)
            ->toBe(['1', '2', '3', '4', '5', '6', '7'])
            ->and($count)
            ->toBe($ranges);
    })->with([[1, 8], [2, 4], [3, 3], [7, 2], [100, 1]]);

    it('reads a record added behind the last range, too', function (): void {
        $source = sqlite($this);
        $ranges = iterator_to_array((fn () => (yield from $source->ranges('page', 3)))(), false);
        $this->database->exec("insert into pages (id, name, slug, body, state) values (8, 'Late', 'late', '', 'out')");
        $last = end($ranges);
        expect($last)
            ->toEqual(new KeyRange('6', null))
            ->and(
                array_map(
                    fn ($r) => $r->key,
                    iterator_to_array((fn () => (yield from $source->records('page', $last)))(), false),
                ),
            )
            ->toBe(['7', '8']);
    });

    it('says of each record whether a visitor can meet it', function (string $set, RecordState $state): void {
        $source = sqlite($this);
        $this->database->exec("update pages set $set where id = 3");
        expect(row($source, '3')->state)->toBe($state);
    })->with([
        'out' => ["state = 'out'", RecordState::Live],
        'draft' => ["state = 'draft'", RecordState::Waiting],
        'gone' => ["state = 'gone'", RecordState::Fading],
        'a word that the map does not know' => ["state = 'review'", RecordState::Waiting],
        'from tomorrow' => ["starts = '2999-01-01'", RecordState::Waiting],
        'over' => ["ends = '2001-01-01'", RecordState::Fading],
        'within its dates' => ["starts = '2001-01-01', ends = '2999-01-01'", RecordState::Live],
        'until the end of today' => ['ends = date()', RecordState::Live],
        'a draft that is over' => ["state = 'draft', ends = '2001-01-01'", RecordState::Fading],
    ]);

    it('hands over fields, address, title and facts', function (): void {
        $source = sqlite($this);
        $this->database->exec(
            "update pages set cover = 4, shows = 'top', what = 'strip', starts = '2020-02-02' where id = 2",
        );
        $record = row($source, '2');
        expect([$record->title, $record->address, $record->facts])
            ->toBe(['Page 2', 'p2', ['Begins' => '2020-02-02']])
            ->and(array_column($record->fields, 'text', 'name'))
            ->toBe(['body' => '<p>2</p>', 'cover' => '4', 'shows' => 'top'])
            ->and($record->field('cover')?->rules->role)
            ->toBe('featured')
            ->and($record->field('shows')?->rules->target)
            ->toBe('strip');
    });

    it('says a moment in a title to the minute', function (string $stored, string $said): void {
        sqlite($this);
        $this->database->exec("update pages set starts = '$stored' where id = 2");
        $map = FieldMap::parse(str_replace('title: name', 'title: "Version of {starts}"', SMALL_MAP));
        $file = $this->database->query('pragma database_list')->fetch()['file'];
        expect(row(new PdoContentSource($map, "sqlite:$file", '', ''), '2')->title)->toBe("Version of $said");
    })->with([
        ['2021-04-10 12:00:00+00', '2021-04-10 12:00'],
        ['2021-04-10T09:30:59.123456Z', '2021-04-10 09:30'],
        ['2021-04-10 00:00:00', '2021-04-10'],
        ['2021-04-10', '2021-04-10'],
        ['spring 2021', 'spring 2021'],
        ['2021-04-10 12:00 and later', '2021-04-10 12:00 and later'],
    ]);

    it('lets another column decide what a key names', function (?string $what, ?string $target): void {
        $source = sqlite($this);
        $this->database->prepare("update pages set shows = 'x', what = ? where id = 1")->execute([$what]);
        expect(row($source, '1')->field('shows')?->rules->target)->toBe($target);
    })->with([['strip', 'strip'], ['other', 'page'], ['unknown', null], [null, null]]);

    it('writes only what the caller saw, whole fields, and gives the new hash', function (): void {
        $source = sqlite($this);
        $seen = row($source, '5');
        $edits = Edits::of([new Edit(3, '5', 'new')]);
        $wanted = SourceRecord::hashOf([...array_column($seen->fields, 'text', 'name'), 'body' => '<p>new</p>']);
        $write = fn (string $key, string $expected, string $field = 'body') => $source->replaceMany('page', [
            new Replacement($key, $expected, $wanted, [$field => $edits]),
        ])[0];
        expect($write('5', $seen->contentHash))
            ->toBeNull()
            ->and(row($source, '5')->contentHash)
            ->toBe($wanted)
            ->and(row($source, '5')->field('body')?->text)
            ->toBe('<p>new</p>')
            // Asked again, it is done already.
            ->and($write('5', $seen->contentHash))
            ->toBeNull();
        $this->database->exec("update pages set body = '<p>later</p>' where id = 5");
        expect($write('5', $seen->contentHash)?->getMessage())
            ->toContain('changed by someone else')
            ->and(row($source, '5')->field('body')?->text)
            ->toBe('<p>later</p>')
            ->and($write('99', $seen->contentHash)?->getMessage())
            ->toContain('no longer exists')
            ->and(fn () => $write('5', $wanted, 'slug'))
            ->toThrow(App\Sites\FieldMapError::class, 'no "slug" to write');
    });

    it(
        'does not see a change in a column that the map leaves out, and sees one in each that it names',
        function (): void {
            $source = sqlite($this);
            $before = row($source, '1');
            $this->database->exec("update pages set ends = '2999-09-09' where id = 1");
            expect(row($source, '1')->hash)->toBe($before->hash);
            $this->database->exec("update pages set name = 'Other' where id = 1");
            expect(row($source, '1')->hash)
                ->not->toBe($before->hash)
                ->and(row($source, '1')->contentHash)
                ->toBe($before->contentHash);
            $this->database->exec('update pages set cover = 9 where id = 1');
            expect(row($source, '1')->contentHash)->not->toBe($before->contentHash);
        },
    );

    it('lists, adds and removes media rows', function (): void {
        $source = sqlite($this);
        $first = iterator_to_array((fn () => (yield from $source->media()))(), false)[0];
        expect([$first->id, $first->path, $first->renditions])->toBe([
            '4',
            'media/a.jpg',
            ['media/a-1x1.jpg', 'media/a-2x2.jpg'],
        ]);
        $new = new NewMedia('media/b.jpg', 'B', 'a b', 30, 20, [
            ['path' => 'media/b-3x2.jpg', 'width' => 3, 'height' => 2],
        ]);
        expect($source->mediaMadeFrom($new))->toBeNull();
        $row = $source->addMedia($new);
        expect($row->id)
            ->toBe('5')
            ->and($source->mediaMadeFrom($new)?->id)
            ->toBe('5')
            ->and(iterator_to_array((fn () => (yield from $source->media()))(), false)[1]->renditions)
            ->toBe(['media/b-3x2.jpg']);
        // Somebody has another look at it: then it is no longer the row that was made.
        $this->database->exec("update pictures set title = 'Better' where id = 5");
        expect(fn () => $source->removeMedia($row))
            ->toThrow(RecordChanged::class)
            ->and($source->mediaRow('5'))
            ->not->toBeNull();
        $this->database->exec("update pictures set title = 'B' where id = 5");
        $source->removeMedia($row);
        expect($source->mediaRow('5'))->toBeNull();
        // Put back, it has its old number and every column.
        $source->addMedia($row);
        expect($source->mediaRow('5'))->toEqual($row);
    });

    it('names what does not answer, without the password', function (): void {
        $gone = new PdoContentSource(
            FieldMap::parse(SMALL_MAP),
            'pgsql:host=127.0.0.1;port=9;dbname=x;password=hidden',
            'u',
            'hidden',
        );
        expect(fn () => $gone->count('page'))->toThrow(SourceUnavailable::class, 'does not answer');
        try {
            $gone->count('page');
        } catch (SourceUnavailable $e) {
            expect($e->getMessage())->not->toContain('hidden')->toContain('try again');
        }
        $source = sqlite($this);
        $this->database->exec('drop table strips');
        expect(fn () => $source->count('strip'))->toThrow(
            App\Sites\FieldMapError::class,
            'line 16, records.strip.table',
        );
    });
});

describe('a folder of files', function (): void {
    beforeEach(function (): void {
        $this->folder = sys_get_temp_dir().'/ylema-store-'.bin2hex(random_bytes(4));
        mkdir($this->folder.'/media', 0o777, true);
        file_put_contents($this->folder.'/media/a.jpg', 'a');
        file_put_contents($this->folder.'/outside.txt', 'x');
        $this->store = new FlysystemStore(new Filesystem(new LocalFilesystemAdapter($this->folder)), ['media/']);
    });

    it('lists only its folders, and never what a write left beside', function (): void {
        file_put_contents($this->folder.'/media/b.jpg.ylema-part', 'half');
        $files = iterator_to_array((fn () => (yield from $this->store->files()))(), false);
        expect(array_map(fn ($f) => [$f->path, $f->size], $files))
            ->toBe([['media/a.jpg', 1]])
            ->and($files[0]->modified)
            ->toBeGreaterThan(1_700_000_000);
    });

    it('reads, writes, replaces and deletes', function (): void {
        $this->store->write('media/new/ü b.jpg', 'one');
        $this->store->write('media/new/ü b.jpg', 'two');
        expect($this->store->read('media/new/ü b.jpg'))
            ->toBe('two')
            ->and($this->store->exists('media/new/ü b.jpg'))
            ->toBeTrue()
            ->and(glob($this->folder.'/media/new/*'))
            ->toHaveCount(1);
        $this->store->delete('media/new/ü b.jpg');
        expect($this->store->exists('media/new/ü b.jpg'))
            ->toBeFalse()
            ->and(fn () => $this->store->read('media/new/ü b.jpg'))
            ->toThrow(FileMissing::class, 'There is no file media/new/ü b.jpg.');
    });

    it('leaves a hard-linked original alone when it replaces a file', function (): void {
        link($this->folder.'/media/a.jpg', $this->folder.'/kept');
        $this->store->write('media/a.jpg', 'changed');
        expect(file_get_contents($this->folder.'/kept'))->toBe('a');
    });
});

describe('the vault', function (): void {
    it('gives back exactly what was put in, and puts the same bytes in once', function (string $bytes): void {
        $vault = new Vault();
        $sha = $vault->put($bytes);
        $files = Storage::disk('vault')->allFiles(substr($sha, 0, 2));
        expect($vault->put($bytes))
            ->toBe($sha)
            ->and($vault->get($sha))
            ->toBe($bytes)
            ->and(Storage::disk('vault')->allFiles(substr($sha, 0, 2)))
            ->toBe($files);
    })->with([
        'text' => 'x',
        'nothing' => '',
        'no text at all' => "\0\xFF\x00\x80",
        'long' => str_repeat('ab', 100_000),
    ]);

    it('never gives out bytes that are not what they were', function (): void {
        $vault = new Vault();
        $sha = $vault->put('precious '.random_int(0, PHP_INT_MAX));
        Storage::disk('vault')->put(substr($sha, 0, 2)."/$sha", 'damaged');
        expect(fn () => $vault->get($sha))->toThrow(RuntimeException::class, 'missing or damaged');
        Storage::disk('vault')->delete(substr($sha, 0, 2)."/$sha");
        expect(fn () => $vault->get($sha))->toThrow(RuntimeException::class, 'backup');
    });
});

it('copies rows in bulk whatever bytes they hold', function (): void {
    DB::statement('create temporary table bulk (id integer, words text, flag boolean, more jsonb)');
    $rows = new BulkRows('bulk', ['id', 'words', 'flag', 'more']);
    $hard = ["tab\there", "line\nbreak\r", 'back\\slash', '\N', "nul\0gone", "broken \xFF utf-8", null, '', 'ü 😀'];
    foreach ($hard as $i => $words) {
        $rows->add([$i, $words, $i % 2 === 0, ['w' => $words === null ? null : mb_scrub($words), 'kept' => '\\u0000']]);
    }
    $rows->flush();
    $rows->flush();
    $back = DB::table('bulk')->orderBy('id')->pluck('words')->all();
    expect($back)
        ->toBe(["tab\there", "line\nbreak\r", 'back\\slash', '\N', 'nulgone', 'broken ? utf-8', null, '', 'ü 😀'])
        ->and(DB::table('bulk')->where('flag', true)->count())
        ->toBe(5);
    expect(DB::table('bulk')->where('id', 4)->value('more'))
        ->toContain('nulgone')
        ->toContain('\\\\u0000');
    DB::statement('drop table bulk');
});

describe('pictures', function (): void {
    it('wait for their plan under a token that only Ylema gives out', function (): void {
        $uploads = new Uploads();
        $taken = $uploads->keep($this->jpeg(60, 40), 'Boat & sea.jpg', $this->site());
        $open = $uploads->open($taken['token'], $this->site()->id);
        expect($open['name'])->toBe('Boat & sea.jpg')->and((string) $open['picture']->size)->toBe('60 × 40');
        foreach (['', '../secrets', str_repeat('a', 26), $taken['token'].'x'] as $token) {
            expect(fn () => $uploads->open($token, 1))->toThrow(UploadRefused::class, 'Send it again');
        }
    });
});

it('keeps every other filter when an address is looked for', function (): void {
    $of = fn (array $filters): int => $this->as(Role::Viewer)
        ->getJson(
            '/api/sites/korrin-bay/media?'
                .http_build_query(['q' => 'https://korrinbay.example/media/people/maren-oake.jpg', ...$filters]),
        )
        ->assertOk()
        ->json('total');
    expect($of([]))
        ->toBe(1)
        ->and(
            $of(['standing' => 'live', 'folder' => 'media/people', 'type' => 'jpeg', 'use' => 'post', 'trouble' => 1]),
        )
        ->toBe(1)
        ->and($of(['standing' => 'idle']))
        ->toBe(0)
        ->and($of(['folder' => 'media/birds']))
        ->toBe(0)
        ->and($of(['type' => 'png']))
        ->toBe(0)
        ->and($of(['use' => 'gallery']))
        ->toBe(0);
});

it('sorts and pages the ledger', function (): void {
    $get = fn (array $query): array => $this->as(Role::Viewer)
        ->getJson('/api/sites/korrin-bay/media?'.http_build_query($query))
        ->assertOk()
        ->json('items');
    foreach (['reach' => 'reach', 'uses' => 'uses', 'weight' => 'weight', 'broken' => 'broken'] as $sort => $column) {
        $values = array_column($get(['sort' => $sort, 'limit' => 50]), $column);
        $sorted = $values;
        rsort($sorted);
        expect($values)->toBe($sorted, $sort);
    }
    $ids = [
        ...array_column($get(['sort' => 'name', 'limit' => 200]), 'id'),
        ...array_column($get(['sort' => 'name', 'limit' => 200, 'offset' => 200]), 'id'),
    ];
    expect($ids)
        ->toHaveCount(count(self::planted()->media->items) + count(Catalogue::LOST))
        ->and(array_unique($ids))
        ->toHaveCount(count(self::planted()->media->items) + count(Catalogue::LOST));
    $this->getJson('/api/sites/korrin-bay/media?limit=5000')
        ->assertStatus(422)
        ->assertJsonPath('type', '/problems/invalid');
    $this->getJson('/api/sites/korrin-bay/media?sort=colour')->assertStatus(422);
});

it('counts the same in facets as in the ledger', function (): void {
    $facets = $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/media/facets')->json();
    foreach (['standing', 'folder', 'type', 'use'] as $name) {
        foreach ($facets[$name] as $facet) {
            expect(
                $this->getJson(
                    '/api/sites/korrin-bay/media?'.http_build_query([$name => $facet['value'], 'limit' => 1]),
                )->json('total'),
            )->toBe($facet['count'], "$name {$facet['value']}");
        }
    }
    expect($this->getJson('/api/sites/korrin-bay/media?trouble=1&limit=1')->json('total'))
        ->toBe($facets['trouble'])
        ->and(array_sum(array_column($facets['standing'], 'count')))
        ->toBe(count(self::planted()->media->items) + count(Catalogue::LOST));
});

it('tells on the desk what the generator planted', function (): void {
    $desk = $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/desk')->assertOk()->json();
    $planted = array_count_values(array_column(self::planted()->truth->uses, 'outcome'));
    $references = array_sum($planted);
    // A link to an address that nobody asked for yet may be served by the site's own code.
    foreach (self::planted()->truth->links as $link) {
        $isKnown = ! in_array($link['value'], ['/journal/the-great-storm', '/shop'], true);
        $planted[$link['outcome']] = ($planted[$link['outcome']] ?? 0) + ($isKnown ? 1 : 0);
    }
    foreach ($desk['broken']['families'] as $family) {
        expect($family['references'])->toBe($planted[$family['cause']], $family['cause']);
    }
    expect($desk['broken']['families'])
        ->toHaveCount(count($planted) - 1)
        ->and($desk['numbers']['items'])
        ->toBe(count(self::planted()->media->items) + count(Catalogue::LOST))
        ->and($desk['numbers']['references'])
        ->toBe($references)
        ->and($desk['expired_banners'])
        ->toBe(6)
        ->and($desk['large']['items'])
        ->toBe(5)
        ->and($desk['copies']['groups'])
        ->toBeGreaterThan(4);
});

it('counts on the desk exactly what the lists hold that it leads to', function (): void {
    DB::table('records')->orderBy('id')->limit(3)->update(['problems' => '[{"field": "body", "message": "no"}]']);
    try {
        $desk = $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/desk')->assertOk()->json();
        $total = fn (string $list): int => $this->getJson("/api/sites/korrin-bay/$list")->assertOk()->json('total');
        expect($total('media?copies=1'))
            ->toBe($desk['copies']['items'])
            ->and($total('media?large=1'))
            ->toBe($desk['large']['items'])
            ->and($total('media?standing=idle'))
            ->toBe($desk['standing']['idle'])
            ->and($total('records?kind=banner&state=fading'))
            ->toBe($desk['expired_banners'])
            ->and($total('records?unread=1'))
            ->toBe($desk['unread'])
            ->and($desk['unread'])
            ->toBe(3);
        foreach ($desk['broken']['families'] as $family) {
            expect($total("records?cause={$family['cause']}"))->toBe($family['records']);
        }
    } finally {
        DB::table('records')->update(['problems' => '[]']);
    }
});

it('counts records in facets as in the list, under all other marks', function (string $marks): void {
    $facets = $this->as(Role::Viewer)->getJson("/api/sites/korrin-bay/records/facets?$marks")->assertOk()->json();
    $list = "/api/sites/korrin-bay/records?limit=1&$marks";
    $total = fn (string $more): int => $this->getJson("$list&$more")->json('total');
    foreach (['kind', 'state'] as $name) {
        expect($facets[$name])->not->toBe([]);
        foreach ($facets[$name] as ['value' => $value, 'count' => $count]) {
            expect($total("$name=$value"))->toBe($count, "$name $value");
        }
    }
    expect([$total('trouble=1'), $total('unread=1')])->toBe([$facets['trouble'], $facets['unread']]);
})->with(['', 'kind=banner', 'state=fading', 'q=tern', 'trouble=1', 'kind=post&state=live', 'cause=former-address']);

it('reads what a field map says of addresses and late pictures', function (): void {
    $map = FieldMap::parse(
        str_replace(
            ['files: { folders: [/media/] }', 'sizes, width'],
            [
                'files: { folders: [/media/], renditions: ["{name}.w{width}.{ext}", "{name}@{scale}x.{ext}"] }'
                ."\nlazy: { data-photo: url, data-sets: srcset }",
                'sizes, page: "picture/{id}", width',
            ],
            SMALL_MAP,
        ),
    );
    expect($map->renditionNames->originalsOf('media/a@2x.jpg'))
        ->toBe(['media/a.jpg'])
        ->and($map->mediaPages?->withId('/picture/4', '5'))
        ->toBe('/picture/5')
        ->and(
            array_column(
                (new Ylema\Reading\FieldReader())->read(
                    '<b data-photo=/media/a.jpg data-sets="/media/b.jpg 1x" data-src=/media/c.jpg>',
                    Ylema\Reading\Notation::Html,
                    $map->rules(),
                )->references,
                'value',
            ),
        )
        ->toBe(['/media/a.jpg', '/media/b.jpg', '/media/c.jpg']);
});

it('says where a field map is wrong about them', function (string $from, string $to, string $says): void {
    expect(fn () => FieldMap::parse(str_replace($from, $to, SMALL_MAP)))
        ->toThrow(App\Sites\FieldMapError::class, $says);
})->with([
    ['files: { folders: [/media/] }', 'files: { folders: [/media/], renditions: "{name}.jpg" }', 'files.renditions'],
    ['alt: alt,', 'alt: alt, page: "picture/",', 'media.page'],
    ['records:', "lazy: { data-x: xml }\nrecords:", 'lazy.data-x'],
    ['records:', "lazy: { Data: url }\nrecords:", 'lazy.Data'],
    ['records:', "lazy: yes\nrecords:", 'lazy'],
]);

it('reads what a field map says of tokens with attributes and of comments', function (): void {
    $map = FieldMap::parse(
        str_replace(
            "records:\n",
            <<<'YAML'
            tokens:
              old: '%(?<id>\d+)%'
              photo: { attributes: { id: media-id } }
              film: { attributes: { src: { notation: url, role: film } }, content: url }
              strip: { attributes: { key: { notation: record-key, names: strip } }, brackets: "{{ }}" }
            comments: { pattern: '^ block (?<text>\{.*\})', notation: json }
            lazy: { data-run: javascript, data-words: markdown, data-all: addresses }
            records:

            YAML,
            SMALL_MAP,
        ),
    );
    $text =
        '%5% [photo id=7] [film src=/media/a.mp4] {{strip key="top"}} <!-- block {"a":"/media/b.jpg"} -->'
        .'<p data-run="x(\'/media/c.jpg\')" data-words="![](/media/d.jpg)" data-all="/media/e.jpg,/media/f.jpg">';
    $references = (new FieldReader())->read($text, Notation::Html, $map->rules())->references;
    expect(array_map(static fn (Reference $r): string => "$r->role $r->value $r->target", $references))->toBe([
        'token old 5 ',
        'token photo[id] 7 ',
        'film /media/a.mp4 ',
        'token strip[key] top strip',
        'url /media/b.jpg ',
        'script /media/c.jpg ',
        'image /media/d.jpg ',
        'p[data-all] /media/e.jpg ',
        'p[data-all] /media/f.jpg ',
    ]);
});

it('says where a field map is wrong about tokens and comments', function (string $line, string $says): void {
    expect(fn () => FieldMap::parse(str_replace("records:\n", "$line\nrecords:\n", SMALL_MAP)))->toThrow(
        FieldMapError::class,
        $says,
    );
})->with([
    'nothing of a token' => ['tokens: { photo: { names: page } }', 'attributes'],
    'no such notation' => ['tokens: { photo: { attributes: { id: number } } }', 'the notation is one of'],
    'a key of no kind' => ['tokens: { photo: { attributes: { key: record-key } } }', 'names'],
    'a kind that is none' => [
        'tokens: { photo: { attributes: { key: { notation: record-key, names: nothing } } } }',
        'name one of the kinds',
    ],
    'half of the brackets' => ['tokens: { photo: { content: url, brackets: "[" } }', 'what begins and what ends'],
    'a comment without its text' => ["comments: { pattern: 'x', notation: json }", '(?<text>'],
]);
