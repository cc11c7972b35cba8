<?php

declare(strict_types=1);

use App\Models\Draft;
use App\Models\Role;
use Illuminate\Support\Facades\DB;
use Tests\App\Connect\SecondSite;

/*
 * The field map in the browser: tried before anybody takes it, with samples of what it reads; versions; what it leaves
 * out; what could not be read.
 */

/** @return array<string, mixed> */
function tried(object $test, string $map, ?string $kind = null): array
{
    return $test->as(Role::Owner)
        ->postJson('/api/sites/korrin-bay/map/try', ['map' => $map, 'kind' => $kind])
        ->assertOk()
        ->json();
}

it('shows records of a kind with what they refer to, resolved', function (): void {
    $said = tried($this, $this->site()->field_map, 'page');
    $references = array_merge(...array_column($said['samples'][0]['fields'], 'references'));
    expect($said['problem'])
        ->toBeNull()
        ->and($said['kinds'])
        ->toContain('page', 'banner', 'style-sheet')
        ->and($said['count'])
        ->toBe($this->site()->records()->where('kind', 'page')->count())
        ->and($said['samples'])
        ->toHaveCount(3)
        ->and(array_filter(array_column($references, 'good')))
        ->not->toBe([]);
    foreach ($references as $mark) {
        expect($mark['marked'])->not->toBe('')->and($mark['says'])->toMatch('~\.$~');
    }
});

it('shows which files the site would find by a record\'s values', function (): void {
    $with = fn (string $shows): string => str_replace(
        "    table: slots\n",
        "    table: slots\n    shows: \"$shows\"\n",
        $this->site()->field_map,
    );
    // A ninth letter has none of them, so what stands behind the bar is said.
    $said = tried($this, $with('media/{shows_kind.9-9|banners}/*'), 'slot');
    $banners = array_column($said['samples'][0]['fields'], null, 'name')['its files'];
    expect($said['problem'])
        ->toBeNull()
        ->and($banners['references'][0]['marked'])
        ->toStartWith('media/banners/')
        ->and($banners['more'])
        ->toBeGreaterThan(0)
        ->and(tried($this, $with('media/people/*'), 'slot')['problem']['words'])
        ->toContain('with columns in braces');
});

it('names the tables and columns that a map can speak of, to owners', function (): void {
    $said = $this->as(Role::Owner)->getJson('/api/sites/korrin-bay/map/tables')->assertOk()->json('tables');
    expect($said['entries'])->toContain('slug', 'body')->and($said['media'])->toContain('path');
    $this->as(Role::Maintainer)->getJson('/api/sites/korrin-bay/map/tables')->assertForbidden();
});

it('says what is wrong with a map at its line, and changes nothing', function (
    string $from,
    string $to,
    string $says,
): void {
    $before = $this->site()->field_map;
    $map = str_replace($from, $to, $before, $count);
    expect($count)->toBeGreaterThan(0);
    $said = tried($this, $map);
    $line = 1 + substr_count(substr($map, 0, (int) strpos($map, $to)), "\n");
    expect($said['problem']['words'])
        ->toContain($says)
        ->and($said['problem']['line'])
        ->toBe($line)
        ->and($said['samples'])
        ->toBe([]);
    $this->as(Role::Owner)
        ->putJson('/api/sites/korrin-bay/map', ['map' => $map])
        ->assertStatus(422)
        ->assertSee($says);
    expect($this->site()->field_map)->toBe($before);
})->with([
    'a misspelt line' => ['    table: banners', '    tabel: banners', 'Did you mean'],
    'a column that is not there' => ['  path: path', '  path: pathway', 'pathway'],
]);

it('takes a map, keeps the one of before, and gives both out', function (): void {
    $this->touched();
    $before = $this->site()->field_map;
    $map = $before."# a note\n";
    $said = $this->as(Role::Owner)
        ->putJson('/api/sites/korrin-bay/map', ['map' => $map, 'reason' => 'to remember'])
        ->assertOk()
        ->json();
    expect($said['map'])
        ->toBe($map)
        ->and(array_column($said['versions'], 'reason'))
        ->toBe(['to remember', 'as it was before'])
        ->and($said['versions'][0]['by'])
        ->toBe(auth()->user()->name);
    $this->as(Role::Viewer)
        ->getJson("/api/sites/korrin-bay/map/versions/{$said['versions'][1]['id']}")
        ->assertOk()
        ->assertJson(['map' => $before]);
    $this->getJson('/api/sites/korrin-bay/map/versions/999999')->assertNotFound();
    $this->putJson('/api/sites/korrin-bay/map', ['map' => $before])->assertForbidden();
});

it('lists what a map leaves out once a line of it is gone', function (): void {
    $this->touched();
    SecondSite::onlyDemo();
    $this->as(Role::Owner)->getJson('/api/sites/korrin-bay/coverage')->assertOk()->assertJson(['total' => 0]);
    $site = $this->site();
    $map = preg_replace('~^      body: .*\R(?:        .*\R)*~m', '', $site->field_map, 1, $count);
    expect($count)->toBe(1);
    $site->update(['field_map' => $map]);
    $said = $this->getJson('/api/sites/korrin-bay/coverage')->assertOk()->json();
    expect($said['total'])
        ->toBe(1)
        ->and($said['gaps'][0])
        ->toMatchArray(['table' => 'entries', 'column' => 'body', 'rule' => 'html'])
        ->and($said['gaps'][0]['files'])
        ->toBeGreaterThan(20);
});

it('lists places inside of columns, tables and files that no line reads, each with what would', function (): void {
    $this->touched();
    $site = $this->site();
    $map = $site->field_map;
    $lines = ['~^  gallery:\n(?:    .*\n)+~m', '~"\[\]\.picture": \{[^}]*block picture \}, ~', '~^code:.*\n~m'];
    foreach ($lines as $line) {
        $map = (string) preg_replace($line, '', $map, 1, $count);
        expect($count)->toBe(1, $line);
    }
    $map = (string) preg_replace('~^.*names: gallery.*\n~m', '', $map);
    $site->update(['field_map' => $map]);
    $gaps = $this->as(Role::Owner)->getJson('/api/sites/korrin-bay/coverage')->assertOk()->json('gaps');
    $places = array_map(
        static fn (array $gap): string => "{$gap['table']}.{$gap['column']} {$gap['path']} {$gap['kind']}",
        $gaps,
    );
    expect($places)
        ->toContain('galleries.items  gallery', 'entries.blocks [].picture ', '.**/*.css  style-sheet-file')
        ->and(array_column($gaps, 'rule', 'path')['[].picture'])
        ->toBe('{"notation":"media-id","role":"picture"}');
    $section = json_decode(array_column($gaps, 'section', 'table')['galleries'], true);
    expect($section['table'])
        ->toBe('galleries')
        ->and($section['fields'])
        ->toHaveKey('items');
});

it('lists what could not be read in pages, each with its reason', function (): void {
    $this->touched();
    $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/unread')->assertOk()->assertJsonCount(0, 'records');
    DB::update(
        "update records set problems = '[{\"field\": \"body\", \"line\": 3, \"message\": \"It is cut short.\"}]' where "
            .'id in (select id from records where site_id = ? order by id limit 130)',
        [$this->site()->id],
    );
    $first = $this->getJson('/api/sites/korrin-bay/unread')->json();
    $second = $this->getJson("/api/sites/korrin-bay/unread?after={$first['next']}")->json();
    expect(count($first['records']))
        ->toBe(100)
        ->and(count($second['records']))
        ->toBe(30)
        ->and($second['next'])
        ->toBeNull()
        ->and($first['records'][0]['problems'])
        ->toEqual([['field' => 'body', 'line' => 3, 'message' => 'It is cut short.']]);
});

it('tries the map of a site that is only being connected, and asks the files themselves', function (): void {
    $folder = self::folder().'/tried';
    shell_exec('rm -rf '.escapeshellarg($folder));
    mkdir("$folder/img", 0755, true);
    file_put_contents("$folder/index.html", '<title>Lane</title><img src="img/a.png"><img src="img/b.png">');
    file_put_contents("$folder/img/a.png", 'a');
    $draft = Draft::query()->create([
        'said' => ['name' => 'Lane', 'address' => 'https://lane.example/', 'content' => $folder, 'files' => $folder],
    ]);
    $map = "version: 1\nfiles: { folders: [img] }\nrecords:\n  page: { files: '**/*.html', notation: html }\n";
    $said = $this->as(Role::Owner)->postJson("/api/drafts/$draft->id/try", ['map' => $map])->assertOk()->json();
    expect(array_column($said['samples'][0]['fields'][0]['references'], 'good'))
        ->toBe([true, false])
        ->and($said['samples'][0]['fields'][0]['references'][1]['says'])
        ->toBe('There is no file img/b.png.');
});
