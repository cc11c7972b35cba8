<?php

declare(strict_types=1);

use App\Models\Reading;
use App\Models\ReadingState;
use App\Models\Record;
use App\Models\Role;
use App\Reading\AlreadyReading;
use App\Reading\ReadSite;
use Illuminate\Support\Facades\Bus;
use Illuminate\Support\Facades\DB;

function read(object $test): Reading
{
    app(ReadSite::class)->begin($test->site(), null);

    return $test->site()->readings()->orderByDesc('id')->firstOrFail();
}

/** @return array<string, mixed> the index without its own numbers */
function index(): array
{
    return [
        'references' => DB::table('media_references')->count(),
        'records' => DB::table('records')->orderBy('id')->pluck('hash', 'id')->all(),
        'items' => DB::table('media_items')
            ->orderBy('path')
            ->get(['path', 'standing', 'reach', 'uses', 'broken'])
            ->toJson(),
        'files' => DB::table('files')->orderBy('path')->pluck('sha256', 'path')->all(),
    ];
}

it('reads nothing anew when nothing changed', function (): void {
    $before = index();
    $reading = read($this);
    expect($reading->state)
        ->toBe(ReadingState::Done)
        ->and($reading->totals['changed'])
        ->toBe(0)
        ->and($reading->totals['changed_files'])
        ->toBe(0)
        ->and($reading->totals['records'])
        ->toBe(Record::query()->count())
        ->and(index())
        ->toBe($before)
        ->and(DB::table('staged_records')->count() + DB::table('staged_files')->count())
        ->toBe(0);
});

it('replaces only what changed, and drops what is gone', function (): void {
    $this->touched();
    $kept = Record::query()->where('kind', 'post')->where('key', '110')->value('id');
    self::content()->exec(
        "update entries set body = body || '<img src=\"/media/archive/unsorted-14.jpg\">' where id = 110",
    );
    self::content()->exec('delete from entries where id = 111');
    self::content()->exec("delete from media where path = 'media/archive/unsorted-13.jpg'");
    unlink(self::folder().'/site/media/archive/unsorted-12.jpg');
    $reading = read($this);
    expect($reading->totals['changed'])
        ->toBe(1)
        ->and(Record::query()->where('kind', 'post')->where('key', '110')->value('id'))
        ->toBe($kept)
        ->and(Record::query()->where('kind', 'post')->where('key', '111')->exists())
        ->toBeFalse()
        ->and($this->item('archive/unsorted-14.jpg')->standing)
        ->toBe('live')
        // A file that no row lists any more is still seen, as an item of its own.
        ->and($this->item('archive/unsorted-13.jpg')->source_id)
        ->toBeNull()
        ->and(DB::table('files')->where('path', 'media/archive/unsorted-12.jpg')->exists())
        ->toBeFalse();
});

it('says what could not be read, and reads the rest', function (): void {
    $this->touched();
    self::content()->exec("update entries set extras = 'a:1:{s:4:\"hero\";s:99:\"cut' where id = 1");
    $reading = read($this);
    $problems = $reading->chunks()->whereRaw('jsonb_array_length(problems) > 0')->firstOrFail()->problems;
    expect($reading->state)
        ->toBe(ReadingState::Done)
        ->and($reading->totals['problems'])
        ->toBe(1)
        ->and($problems[0])
        ->toMatchArray(['kind' => 'page', 'key' => '1', 'field' => 'extras', 'line' => 1])
        ->and(Record::query()->where('kind', 'page')->where('key', '1')->firstOrFail()->problems)
        ->toBe([array_diff_key($problems[0], ['kind' => 0, 'key' => 0, 'title' => 0])])
        ->and($problems[0]['message'])
        ->toContain('states a length of 99 bytes');
});

it('leaves the index whole when the source goes away, and says what to check', function (): void {
    $before = index();
    $site = $this->site();
    $connection = $site->connection;
    $site->update(['connection' => [...$connection, 'dsn' => 'pgsql:host=127.0.0.1;port=9;dbname=gone']]);
    $reading = read($this);
    expect($reading->state)
        ->toBe(ReadingState::Failed)
        ->and($reading->problem)
        ->toContain('does not answer')
        ->toContain('try again')
        ->and(index())
        ->toBe($before);
    $this->as(Role::Viewer)
        ->getJson('/api/sites/korrin-bay/readings')
        ->assertOk()
        ->assertJsonPath('readings.0.state', 'failed');
    $reference = App\Models\MediaReference::query()->value('id');
    $this->getJson("/api/sites/korrin-bay/references/$reference/excerpt")
        ->assertStatus(503)
        ->assertJsonPath('type', '/problems/source-unavailable');
    $site->update(['connection' => $connection]);
    expect(read($this)->state)->toBe(ReadingState::Done);
});

it('leaves the index whole when the source goes away in the middle of a reading', function (): void {
    $this->touched();
    $before = index();
    self::content()->exec("update entries set body = body || ' changed'");
    self::content()->exec('alter table layouts rename to layouts_away');
    $reading = read($this);
    self::content()->exec('alter table layouts_away rename to layouts');
    expect($reading->state)->toBe(ReadingState::Failed)->and(index())->toBe($before);
});

it('can be stopped, and then lands nothing', function (): void {
    $this->touched();
    $before = index();
    self::content()->exec("update entries set title = title || ' (new)'");
    Bus::fake();
    $reading = app(ReadSite::class)->begin($this->site(), null);
    expect(fn () => app(ReadSite::class)->begin($this->site(), null))->toThrow(AlreadyReading::class);
    app(ReadSite::class)->prepare($reading);
    $chunks = $reading->chunks()->orderBy('id')->get();
    app(ReadSite::class)->chunk($chunks[8]);
    $this->as(Role::Maintainer)
        ->deleteJson("/api/sites/korrin-bay/readings/{$reading->id}")
        ->assertOk()
        ->assertJsonPath('state', 'stopped');
    app(ReadSite::class)->chunk($chunks[9]->refresh());
    app(ReadSite::class)->finish($reading->refresh());
    expect($chunks[9]->refresh()->done)
        ->toBeFalse()
        ->and(index())
        ->toBe($before);
});

it('gives the same rows when a chunk is read twice, as after a worker died', function (): void {
    Bus::fake();
    $this->touched();
    DB::table('records')->update(['hash' => 'x']);
    $reading = app(ReadSite::class)->begin($this->site(), null);
    app(ReadSite::class)->prepare($reading);
    foreach ($reading->chunks()->get() as $chunk) {
        app(ReadSite::class)->chunk($chunk);
        app(ReadSite::class)->chunk($chunk);
    }
    $before = DB::table('media_references')->count();
    app(ReadSite::class)->finish($reading->refresh());
    expect($reading->refresh()->state)
        ->toBe(ReadingState::Done)
        ->and(DB::table('media_references')->count())
        ->toBe($before);
});

it('says what is wrong with a field map', function (string $change, string $says): void {
    $yaml = (string) file_get_contents(base_path('standin/korrin.fieldmap.yaml'));
    [$from, $to] = explode(' => ', $change);
    expect(fn () => App\Sites\FieldMap::parse(str_replace($from, $to, $yaml)))->toThrow(
        App\Sites\FieldMapError::class,
        $says,
    );
})->with([
    ['version: 1 => version: 7', 'version: 1'],
    ['body: html => body: hmtl', 'the notation is one of html, css'],
    ['names: gallery } => names: galery }', 'line 32, tokens.gallery.names: name one of the kinds'],
    ['table: entries => table: "entries; drop table x"', 'plain name of a table'],
    ['records: => records: [', 'not readable YAML'],
    ["'%slot:(?<key>[a-z0-9-]+)%' => '%slot:(?<key>[a-z%'", 'does not compile'],
]);

it('knows a renamed file by its bytes, a converted one by its name, and the page of an item', function (): void {
    $this->touched();
    $site = $this->site();
    $site->update([
        'field_map' => str_replace(
            "media:\n  table: media\n",
            "media:\n  table: media\n  page: picture/{id}\n",
            $site->field_map,
        ),
        'aliases' => ['https://static.korrinbay.example/'],
    ]);
    $media = self::folder().'/site/media/';
    $id = self::contentValue("select id from media where path = 'media/archive/unsorted-11.jpg'");
    self::content()
        ->prepare('update entries set body = body || ? where id = 110')
        ->execute([
            '<img src="/media/archive/unsorted-14.jpg"><img src="/media/archive/unsorted-10.jpg"><a href="/picture/'
            .$id
            .'">x</a><img src="https://static.korrinbay.example/media/archive/unsorted-09.jpg">',
        ]);
    rename($media.'archive/unsorted-14.jpg', $media.'boats/another-name.jpg');
    rename($media.'archive/unsorted-10.jpg', $media.'archive/unsorted-10.webp');
    // Its bytes are another file's from now on, so that only the name tells.
    $bytes = file_get_contents($media.'archive/unsorted-10.webp').'x';
    unlink($media.'archive/unsorted-10.webp');
    file_put_contents($media.'archive/unsorted-10.webp', $bytes);
    $uses = $this->item('archive/unsorted-11.jpg')->uses;
    read($this);
    $outcome = fn (string $end): object => DB::table('addresses')
        ->where('url', 'like', "%$end")
        ->firstOrFail();
    expect($outcome('/unsorted-14.jpg'))
        ->toMatchObject(['outcome' => 'same-bytes', 'path' => 'media/boats/another-name.jpg'])
        ->and($outcome('/unsorted-10.jpg'))
        ->toMatchObject(['outcome' => 'changed-extension', 'path' => 'media/archive/unsorted-10.webp'])
        ->and($outcome('/unsorted-09.jpg')->outcome)
        ->toBe('found')
        ->and($outcome("/picture/$id"))
        ->toMatchObject([
            'outcome' => 'media-page',
            'path' => null,
            'media_item_id' => $this->item('archive/unsorted-11.jpg')->id,
        ])
        ->and($this->item('archive/unsorted-11.jpg')->uses)
        ->toBe($uses + 1);
    // The file comes back: nothing is told of it any more.
    rename($media.'boats/another-name.jpg', $media.'archive/unsorted-14.jpg');
    read($this);
    expect($outcome('/unsorted-14.jpg')->outcome)
        ->toBe('found')
        ->and(DB::table('former_files')->where('path', 'media/archive/unsorted-14.jpg')->exists())
        ->toBeFalse();
});
