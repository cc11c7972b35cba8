<?php

declare(strict_types=1);

use App\Models\MediaItem;
use App\Models\Site;
use App\Usage\UsageIndex;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Standin\Lane\Lane;
use Tests\App\Connect\SecondSite;

/*
 * A site that is nothing but a folder: connected with one line, read, swapped and undone like any other.
 */

beforeEach(function (): void {
    $this->touched();
    $this->lane = new Lane();
    $this->folder = self::folder().'/lane';
    shell_exec('rm -rf '.escapeshellarg($this->folder));
    $this->lane->write($this->folder);
    file_put_contents(
        self::folder().'/lane.yaml',
        "name: Marrow Lane\naddress: https://marrowlane.example/\ncontent: $this->folder\nfiles: $this->folder\n",
    );
    expect(Artisan::call('ylema:connect', ['file' => self::folder().'/lane.yaml', '--no-interaction' => true]))->toBe(
        0,
        Artisan::output(),
    );
    $this->lane_site = Site::query()->where('slug', 'marrow-lane')->sole();
    expect(SecondSite::read($this->lane_site)->problem)->toBeNull();
});

it('finds every use in pages, style sheets, Markdown, data and templates, and what each page shows', function (): void {
    $site = $this->lane_site;
    $found = array_map(
        static fn (string $use): string => preg_replace('~^[^|]*\|~', '', str_replace('|text|', '|', $use)) ?? '',
        SecondSite::uses($site, static fn (string $kind): string => $kind),
    );
    $wanted = array_map(static fn (array $use): string => "{$use['file']}|{$use['path']}", $this->lane->uses);
    sort($found);
    sort($wanted);
    expect($found)
        ->toBe($wanted)
        ->and(MediaItem::query()->where('site_id', $site->id)->where('standing', 'idle')->pluck('path')->all())
        ->toEqualCanonicalizing($this->lane->idle);
    $index = new UsageIndex($site->id);
    $shown = [];
    foreach (MediaItem::query()->where('site_id', $site->id)->get() as $item) {
        $records = DB::table('media_references')->where('media_item_id', $item->id)->pluck('record_id')->all();
        foreach ($index->graph()->pagesOf($records) as $page) {
            $shown[$page][] = $item->path;
        }
    }
    $pages = DB::table('records')
        ->where('site_id', $site->id)
        ->where('is_page', true)
        ->where('state', 0)
        ->pluck('address', 'id');
    $seen = [];
    foreach ($pages as $id => $address) {
        $seen[$address] = collect($shown[$id] ?? [])
            ->unique()
            ->sort()
            ->values()
            ->all();
    }
    $wanted = array_map(
        static fn (array $paths): array => collect($paths)->unique()->sort()->values()->all(),
        $this->lane->shown,
    );
    ksort($seen);
    ksort($wanted);
    expect($seen)
        ->toBe($wanted)
        ->and(DB::table('records')->where('site_id', $site->id)->where('key', 'plots/2.html')->value('title'))
        ->toBe('Plot 2')
        ->and(DB::table('records')->where('site_id', $site->id)->where('key', 'diary/2024-03.md')->value('title'))
        ->toBe('Diary of month 3');
});

it('swaps in place: nothing changes but the reference, and mode and time stay', function (): void {
    $site = $this->lane_site;
    $site->update(['writes' => true]);
    $before = [];
    foreach (['plots/2.html', 'plots/3.html', 'css/lane.css', 'templates/notice.phtml'] as $path) {
        chmod("$this->folder/$path", 0o640);
        touch("$this->folder/$path", 1_500_000_000);
        $before[$path] = file_get_contents("$this->folder/$path");
    }
    $item = DB::table('media_references as m')
        ->join('records as r', 'r.id', '=', 'm.record_id')
        ->join('media_items as i', 'i.id', '=', 'm.media_item_id')
        ->where('r.key', 'plots/2.html')
        ->value('i.path');
    Artisan::call('ylema:swap', ['site' => 'marrow-lane', 'from' => $item, 'to' => 'img/plot-30.jpg']);
    $says = Artisan::output();
    clearstatcache();
    $after = (string) file_get_contents("$this->folder/plots/2.html");
    $encoded = implode('/', array_map(rawurlencode(...), explode('/', $item)));
    expect($after)
        ->not->toBe($before['plots/2.html'], $says)
        // Byte for byte the same, but for what named the picture.
        ->and(preg_replace('~(?:\.\./|/)img/plot-30\.jpg~', '@', $after))
        ->toBe(preg_replace('~(?:\.\./|/)'.preg_quote($encoded, '~').'~', '@', $before['plots/2.html']))
        ->and(fileperms("$this->folder/plots/2.html") & 0o777)
        ->toBe(0o640)
        ->and(filemtime("$this->folder/plots/2.html"))
        ->toBe(1_500_000_000);
    Artisan::call('ylema:undo', ['change' => (string) DB::table('changes')->where('site_id', $site->id)->max('id')]);
    foreach ($before as $path => $text) {
        expect(file_get_contents("$this->folder/$path"))->toBe($text);
    }
});

it('says which files it could not read, and keeps them as records', function (): void {
    $site = $this->lane_site;
    $large = fopen("$this->folder/large.html", 'w');
    ftruncate($large, 16 * 1024 * 1024 + 1);
    fclose($large);
    chmod("$this->folder/plots/2.html", 0);
    try {
        $reading = SecondSite::read($site);
        $said = DB::table('records')
            ->where('site_id', $site->id)
            ->whereIn('key', ['large.html', 'plots/2.html'])
            ->orderBy('key')
            ->pluck('problems', 'key')
            ->map(static fn (string $json): string => json_decode($json, true)[0]['message'])
            ->all();
    } finally {
        chmod("$this->folder/plots/2.html", 0o640);
    }
    expect($reading->problem)
        ->toBeNull()
        ->and($said)
        ->toBe([
            'large.html' => 'It has more than 16 MB, which nobody wrote by hand; it was not read.',
            'plots/2.html' => 'It cannot be read by the user that Ylema runs as. Give it the right.',
        ]);
    // Readable again, it is read as before.
    SecondSite::read($site);
    expect(DB::table('records')->where('site_id', $site->id)->where('key', 'plots/2.html')->value('problems'))
        ->toBe('[]');
});

it('follows includes from the folder of the file that says them, and from the root', function (): void {
    $site = $this->lane_site;
    mkdir("$this->folder/walks/parts", 0o755, true);
    $include = static fn (string $path): string => "<!--#include file=\"$path\" -->";
    file_put_contents(
        "$this->folder/walks/one.html",
        '<title>Walk</title>'.$include('parts/map.html').$include('../parts/head.html').$include('../../../etc/passwd'),
    );
    file_put_contents("$this->folder/walks/parts/map.html", '<img src="/img/plot-30.jpg">');
    $map = str_replace('parts/**/*.html', '{parts,walks/parts}/**/*.html', $site->field_map, $count);
    expect($count)->toBe(1);
    $site->update(['field_map' => $map]);
    expect(SecondSite::read($site)->problem)->toBeNull();
    $carried = DB::table('carrying as c')
        ->join('records as up', 'up.id', '=', 'c.carrier_id')
        ->join('records as down', 'down.id', '=', 'c.carried_id')
        ->where('up.site_id', $site->id)
        ->where('up.key', 'walks/one.html')
        ->orderBy('down.key')
        ->pluck('down.key')
        ->all();
    expect($carried)->toBe(['parts/head.html', 'walks/parts/map.html']);
});

it('reads bare paths of front matter as most of them prove', function (): void {
    $pictures = MediaItem::query()
        ->where('site_id', $this->lane_site->id)
        ->where('path', 'like', '%/%.jpg')
        ->orderBy('id')
        ->take(2)
        ->pluck('path');
    foreach ($pictures as $n => $path) {
        file_put_contents("$this->folder/diary/bare-$n.md", "---\ntitle: Bare $n\ncover: $path\n---\nWords\n");
    }
    file_put_contents(
        self::folder().'/bare.yaml',
        "name: Bare Lane\naddress: https://barelane.example/\ncontent: $this->folder\nfiles: $this->folder\n",
    );
    Artisan::call('ylema:connect', ['file' => self::folder().'/bare.yaml', '--no-interaction' => true]);
    $site = Site::query()->where('slug', 'bare-lane')->sole();
    expect(SecondSite::read($site)->problem)->toBeNull();
    $found = SecondSite::uses($site, static fn (string $kind): string => $kind);
    expect(implode("\n", $found))->toContain('diary/bare-0.md')->toContain('diary/bare-1.md');
});
