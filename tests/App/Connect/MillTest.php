<?php

declare(strict_types=1);

use App\Connect\MapProposer;
use App\Models\MediaItem;
use App\Models\Site;
use App\Sites\FieldMap;
use App\Sites\FolderStore;
use App\Survey\Surveys;
use App\Usage\UsageIndex;
use Illuminate\Support\Facades\DB;
use Tests\App\Connect\NetLaw;
use Tests\App\Connect\SecondSite;
use Tests\App\Loopback;

/*
 * A site that nobody described, unlike the demo in every habit: its map is proposed, and held against what the site's
 * makers know.
 */

beforeEach(function (): void {
    $this->touched();
    $this->folder = self::folder().'/mill';
    $this->mill = SecondSite::mill($this->folder);
    $this->server = null;
});

afterEach(function (): void {
    $this->server?->end();
});

function hollinMill(object $test): Site
{
    return Site::query()->create([
        'slug' => 'hollin-mill',
        'name' => 'Hollin Mill',
        'address' => 'https://hollinmill.example/',
        'field_map' => '',
        'connection' => [...SecondSite::credentials(), 'folder' => $test->folder],
        'reach_at' => $test->server === null ? [] : ['hollinmill.example' => $test->server->origin()],
    ]);
}

/** @return array{FieldMap, list<Ylema\Connect\Question>} as proposed and read */
function proposedAndRead(object $test, Site $site): array
{
    $proposer = app(MapProposer::class);
    $proposal = $proposer->propose($site, new FolderStore($test->folder, ['']));
    $site->update(['field_map' => $proposer->yaml($proposal)]);
    $reading = SecondSite::read($site);
    expect($reading->problem)->toBeNull()->and($reading->state->value)->toBe('done');

    return [FieldMap::parse($site->field_map), $proposal->questions];
}

it('proposes a map that finds every use, invents none, and calls nothing idle that is used', function (): void {
    $site = hollinMill($this);
    [$map, $questions] = proposedAndRead($this, $site);
    $found = SecondSite::uses($site, static fn (string $kind): string => $map->kind($kind)->table);
    $wanted = array_map(static fn (array $use): string => implode('|', $use), $this->mill->uses);
    sort($found);
    sort($wanted);
    expect($found)
        ->toBe($wanted)
        ->and(count($questions))
        ->toBeLessThan(8)
        ->and(MediaItem::query()->where('site_id', $site->id)->where('standing', 'idle')->pluck('path')->all())
        ->toEqualCanonicalizing($this->mill->idle);
});

it('keeps the law of the net', function (): void {
    $site = hollinMill($this);
    proposedAndRead($this, $site);
    $used = array_values(array_diff(
        MediaItem::query()->where('site_id', $site->id)->pluck('path')->all(),
        $this->mill->idle,
    ));
    NetLaw::holds($site, SecondSite::maria(), $this->folder, $used);
});

it('finds the addresses of pages at the public site, and then what each of them shows', function (): void {
    $this->server = new Loopback(dirname(__DIR__, 3).'/standin/public/mill.php', [
        'MILL_DSN' => (string) getenv('MARIA_DSN'),
        'MILL_USER' => 'sources',
        'MILL_PASSWORD' => (string) getenv('MARIA_PASSWORD'),
        'MILL_FOLDER' => $this->folder,
    ]);
    $site = hollinMill($this);
    proposedAndRead($this, $site);
    $shown = [];
    $index = new UsageIndex($site->id);
    foreach (MediaItem::query()->where('site_id', $site->id)->get() as $item) {
        $users = DB::table('media_references')->where('media_item_id', $item->id)->pluck('record_id')->all();
        foreach ($index->graph()->pagesOf($users) as $page) {
            $shown[$page][] = $item->path;
        }
    }
    $addresses = DB::table('records')->whereIn('id', array_keys($shown))->where('state', 0)->pluck('address', 'id');
    $found = [];
    foreach ($addresses as $id => $address) {
        $found[$address] = collect($shown[$id])->unique()->sort()->values()->all();
    }
    $wanted = array_map(
        static fn (array $paths): array => collect($paths)->unique()->sort()->values()->all(),
        $this->mill->shown,
    );
    ksort($found);
    ksort($wanted);
    expect(array_keys($found))->toBe(array_keys($wanted))->and($found)->toBe($wanted);

    app(Surveys::class)->begin($site->refresh(), null)->refresh();
    expect(DB::table('sightings')->where('site_id', $site->id)->where('seen', true)->count())
        ->toBeGreaterThan(300)
        ->and(
            DB::table('sightings')
                ->where('site_id', $site->id)
                ->whereColumn('seen', '<>', 'mapped')
                ->get(['url', 'seen', 'mapped'])
                ->all(),
        )
        ->toBe([]);
});
