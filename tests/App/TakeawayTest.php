<?php

declare(strict_types=1);

use App\Models\Role;
use App\Takeaway\NoSuchPart;
use App\Takeaway\Sitemap;
use Illuminate\Support\Facades\Artisan;

/*
 * The map, taken out: every planted use is in it, with the pages where a visitor meets it.
 */

/** @return list<array<string, mixed>> */
function mapLines(object $test, array $query): array
{
    $text = $test
        ->as(Role::Viewer)
        ->get('/api/sites/korrin-bay/map/export?'.http_build_query(['as' => 'ndjson', ...$query]))
        ->assertOk()
        ->streamedContent();

    return array_map(
        static fn (string $line): array => json_decode($line, true, 512, JSON_THROW_ON_ERROR),
        array_filter(explode("\n", $text)),
    );
}

it('has a row for every place, with its item and its pages', function (): void {
    $lines = mapLines($this, []);
    $found = array_map(
        static fn (array $l): string => "{$l['record_kind']}|{$l['record_key']}|{$l['field']}|{$l['item']}",
        $lines,
    );
    $wanted = array_map(
        static fn (array $u): string => "{$u['kind']}|{$u['key']}|{$u['field']}|{$u['media']}",
        self::planted()->truth->uses,
    );
    sort($found);
    sort($wanted);
    expect($found)->toBe($wanted);
    $portrait = array_values(
        array_filter(
            $lines,
            static fn (array $l): bool => $l['item'] === 'media/people/maren-oake.jpg' && $l['record_kind'] === 'post',
        ),
    );
    expect($portrait[0]['pages'][0])
        ->toStartWith('https://korrinbay.example/')
        ->and($portrait[0]['reach'])
        ->toBeGreaterThan(0)
        ->and($portrait[0]['standing'])
        ->toBe('live')
        ->and($portrait[0]['file'] ?? $portrait[0]['item_id'])
        ->not->toBeNull();
});

it('takes out a part of it', function (): void {
    $banners = mapLines($this, ['kind' => 'banner']);
    expect(array_unique(array_column($banners, 'record_kind')))->toBe(['banner']);
    $birds = mapLines($this, ['path' => 'media/birds/', 'standing' => 'live']);
    expect(array_filter($birds, static fn (array $l): bool => ! str_starts_with($l['item'], 'media/birds/')))
        ->toBe([])
        ->and($birds)
        ->not->toBe([]);
    $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/map/export?as=poem')->assertStatus(422);
});

it('is the same as CSV, which a spreadsheet reads', function (): void {
    Artisan::call('ylema:map', ['site' => 'korrin-bay', '--as' => 'csv', '--pages' => '2']);
    $file = tempnam(sys_get_temp_dir(), 'map');
    file_put_contents($file, Artisan::output());
    $handle = fopen($file, 'r');
    $rows = [];
    while (($row = fgetcsv($handle, escape: '')) !== false) {
        $rows[] = $row;
    }
    unlink($file);
    expect($rows[0][0])
        ->toBe('record_kind')
        ->and(count($rows) - 1)
        ->toBe(count(self::planted()->truth->uses))
        ->and(array_unique(array_map(count(...), $rows)))
        ->toBe([count($rows[0])]);
});

it('is a sitemap with the pictures of each page', function (): void {
    Artisan::call('ylema:map', ['site' => 'korrin-bay', '--as' => 'sitemap']);
    $map = new DOMDocument();
    expect($map->loadXML(Artisan::output()))->toBeTrue();
    $path = new DOMXPath($map);
    $path->registerNamespace('s', 'http://www.sitemaps.org/schemas/sitemap/0.9');
    $path->registerNamespace('i', 'http://www.google.com/schemas/sitemap-image/1.1');
    $pages = Illuminate\Support\Facades\DB::table('records')->where('is_page', true)->where('state', 0)->count();
    expect($path->query('//s:url/s:loc')->length)
        ->toBe($pages)
        ->and($path->query('//i:loc[contains(., "media/people/maren-oake")]')->length)
        ->toBeGreaterThan(15)
        // What the header shows is on every page.
        ->and($path->query('//s:url[.//i:loc[contains(., "media/brand/korrin-logo.")]]')->length)
        ->toBe($pages);
});

it('parts a sitemap that is too heavy, with each page in one of them', function (): void {
    $whole = implode('', iterator_to_array((new Sitemap($this->site()))->xml(), false));
    $addresses = static function (string $xml): array {
        $map = new DOMDocument();
        expect($map->loadXML($xml))->toBeTrue();

        return array_map(
            static fn (DOMNode $one): string => $one->textContent,
            iterator_to_array($map->getElementsByTagName('loc')),
        );
    };
    $heavy = new Sitemap($this->site(), 20_000);
    $found = [];
    for ($part = 1; ; $part++) {
        try {
            $xml = implode('', iterator_to_array($heavy->xml($part), false));
        } catch (NoSuchPart $e) {
            expect($e->getMessage())->toContain('has '.($part - 1).' parts, so there is no part '.$part);
            break;
        }
        expect(strlen($xml))->toBeLessThan(21_000);
        array_push($found, ...$addresses($xml));
    }
    expect($part)->toBeGreaterThan(3)->and($found)->toBe($addresses($whole));
});

it('says that a part of a sitemap is not there', function (): void {
    expect(Artisan::call('ylema:map', ['site' => 'korrin-bay', '--as' => 'sitemap', '--part' => '2']))->toBe(2)
        ->and(Artisan::output())->toContain('has one part, so there is no part 2');
    $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/map/export?as=sitemap&part=2')
        ->assertNotFound()->assertJsonPath('detail', 'This sitemap has one part, so there is no part 2.');
});
