<?php

declare(strict_types=1);

use App\Models\MediaItem;
use App\Models\Role;
use App\Usage\Trail;
use App\Usage\UsageIndex;
use Illuminate\Support\Facades\DB;

it('draws each item\'s trail so that its counts equal the ledger\'s', function (): void {
    $trail = new Trail();
    foreach (MediaItem::query()->orderBy('id')->get() as $item) {
        if ($item->id % 4 !== 0) {
            continue;
        }
        $drawn = $trail->of($this->site(), $item);
        expect(count($drawn['references']))
            ->toBe($item->uses, $item->path)
            ->and($drawn['reach'])
            ->toBe($item->reach, $item->path)
            ->and(count(array_filter($drawn['references'], static fn (array $r): bool => $r['broken'])))
            ->toBe($item->broken, $item->path);
    }
});

it('leads every public page back to a place that names the item', function (string $path): void {
    $drawn = (new Trail())->of($this->site(), $this->item($path));
    $placed = array_flip(array_column($drawn['references'], 'record_id'));
    $up = [];
    foreach ($drawn['carries'] as $edge) {
        $up[$edge['from']][] = $edge['to'];
    }
    $known = array_flip(array_column($drawn['records'], 'id'));
    foreach ($drawn['pages'] as $page) {
        $queue = [$page];
        $found = false;
        for ($steps = 0; $queue !== [] && ! $found && $steps < 100; $steps++) {
            $at = array_shift($queue);
            $found = isset($placed[$at]);
            array_push($queue, ...$up[$at] ?? []);
        }
        expect($found)
            ->toBeTrue("page $page")
            ->and(isset($known[$page]))
            ->toBeTrue();
    }
    expect($drawn['pages'])->not->toBeEmpty();
})->with([
    'people/maren-oake.jpg',
    'banners/quayside-chandlery.jpg',
    'brand/korrin-logo.png',
    'style/paper-1.png',
    'boats/the-petrel-1.jpg',
]);

it('reaches every public page with what a setting puts everywhere', function (): void {
    $pages = DB::table('records')->where('is_page', true)->where('state', 0)->count();
    expect($this->item('brand/favicon.png')->reach)
        ->toBe($pages)
        ->and((new Trail())->of($this->site(), $this->item('brand/favicon.png'))['reach'])
        ->toBe($pages);
});

it('follows carriers upwards only', function (): void {
    $index = new UsageIndex($this->site()->id);
    $banner = (int) DB::table('records')->where('kind', 'banner')->where('key', '1')->value('id');
    $kinds = DB::table('records')
        ->whereIn('id', $index->closure([$banner]))
        ->distinct()
        ->orderBy('kind')
        ->pluck('kind')
        ->all();
    expect($kinds)->toBe(['banner', 'banner-set', 'layout', 'page', 'page-part', 'post', 'slot']);
    $page = (int) DB::table('records')->where('kind', 'page')->where('key', '2')->value('id');
    expect($index->closure([$page]))->toBe([$page]);
});

it('says the same of a part of the graph as of the whole', function (): void {
    $index = new UsageIndex($this->site()->id);
    $whole = $index->graph();
    foreach (
        DB::table('records')
            ->whereIn('kind', ['banner', 'gallery', 'slot', 'style-sheet', 'setting'])
            ->pluck('id') as $record
    ) {
        $part = $index->graph([$record]);
        expect($part->countPagesOf([$record]))
            ->toBe($whole->countPagesOf([$record]))
            ->and($part->stateOf($record))
            ->toBe($whole->stateOf($record));
    }
});

it('counts records by kind and state as the generator laid them out', function (): void {
    $facets = fn (string $marks): array => array_map(
        static fn (mixed $facet): mixed => is_array($facet) ? array_column($facet, 'count', 'value') : $facet,
        $this->as(Role::Viewer)->getJson("/api/sites/korrin-bay/records/facets?$marks")->assertOk()->json(),
    );
    $kinds = $facets('')['kind'];
    expect([$kinds['page'], $kinds['post'], $kinds['banner'], $kinds['banner-set'], $kinds['slot']])
        ->toBe([64, 144, 24, 7, 10])
        ->and($facets('kind=banner')['state'])
        ->toBe(['live' => 16, 'fading' => 6, 'waiting' => 2])
        ->and($facets('kind=version')['state'])
        ->toBe(['fading' => 18]);
});

it('weighs what is idle as its files weigh', function (): void {
    $idle = $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/resting')->assertOk()->json('ask');
    $bytes = 0;
    $files = 0;
    foreach (MediaItem::query()->where('verdict', 'ask')->with('files')->get() as $item) {
        foreach ($item->files as $file) {
            $bytes += (int) filesize(self::folder().'/site/'.$file->path);
            $files++;
        }
    }
    expect($idle)->toBe([
        'items' => MediaItem::query()->where('verdict', 'ask')->count(),
        'files' => $files,
        'bytes' => $bytes,
    ]);
});

it('gives each file to exactly one item, and each item its original', function (): void {
    expect(DB::table('files')->whereNull('media_item_id')->count())
        ->toBe(0)
        ->and(DB::table('files')->where('is_original', true)->count())
        ->toBe(count(self::planted()->media->items))
        ->and(
            DB::selectOne(
                'select count(*) as n from files f join media_items m on m.id = f.media_item_id where f.is_original '
                    .'and f.path <> m.path',
            )->n,
        )
        ->toBe(0);
    foreach (self::planted()->media->items as $item) {
        $wanted = [$item->path, ...array_keys($item->renditions)];
        $found = DB::table('files')
            ->join('media_items', 'media_items.id', '=', 'files.media_item_id')
            ->where('media_items.path', $item->path)
            ->pluck('files.path')
            ->all();
        sort($wanted);
        sort($found);
        expect($found)->toBe($wanted);
    }
});
