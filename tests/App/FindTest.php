<?php

declare(strict_types=1);

use App\Models\MediaItem;
use App\Models\Record;
use App\Models\Role;

/** @return array<string, mixed> */
function found(object $test, string $q): array
{
    return $test
        ->as(Role::Viewer)
        ->getJson('/api/sites/korrin-bay/find?'.http_build_query(['q' => $q]))
        ->assertOk()
        ->json();
}

it('finds an item by any address or path of it', function (string $q): void {
    expect(found($this, $q)['items']['items'][0]['path'] ?? null)->toBe('media/people/maren-oake.jpg');
})->with([
    'title' => 'Maren Oake',
    'path' => 'media/people/maren-oake.jpg',
    'with a slash' => '/media/people/maren-oake.jpg',
    'now' => 'https://korrinbay.example/media/people/maren-oake.jpg',
    'without a scheme' => 'korrinbay.example/media/people/maren-oake.jpg',
    'of a rendition' => 'https://korrinbay.example/media/people/maren-oake.w160.jpg?v=2',
    'before' => 'https://www.korrin-observatory.example/bay/media/people/maren-oake.jpg',
    'words apart' => 'oake people',
]);

it('finds an item and a page by the address at which this machine reaches the site', function (): void {
    $here = (string) $this->site()->reach_at['korrinbay.example'];
    expect(found($this, "$here/media/people/maren-oake.jpg")['items']['total'])
        ->toBe(1)
        ->and(found($this, "$here/people")['records']['records'][0]['address'])
        ->toBe('people');
});

it('finds a rendition by its name', function (): void {
    $files = found($this, 'maren-oake.w160')['files'];
    expect($files['total'])
        ->toBe(1)
        ->and($files['files'][0]['path'])
        ->toBe('media/people/maren-oake.w160.jpg')
        ->and($files['files'][0]['media_item_id'])
        ->toBe(MediaItem::query()->where('path', 'media/people/maren-oake.jpg')->value('id'));
});

it('finds a page by its title and by its address, with or without the last slash', function (string $q): void {
    expect(found($this, $q)['records']['records'][0]['address'] ?? null)->toBe('journal/from-the-hide-no-9');
})->with([
    'From the hide, no. 9',
    '/journal/from-the-hide-no-9',
    'journal/from-the-hide-no-9/',
    'https://korrinbay.example/journal/from-the-hide-no-9',
    'https://www.korrin-observatory.example/bay/journal/from-the-hide-no-9#top',
]);

it('takes signs of patterns for what they are', function (): void {
    expect(found($this, '100%')['items']['total'])->toBe(0)->and(found($this, '_')['records']['total'])->toBe(0);
});

it('shows of a page what it shows itself and what comes through carriers, each with its finding', function (): void {
    $page = Record::query()->where('address', 'journal/from-the-hide-no-3')->firstOrFail();
    $seen = $this->as(Role::Viewer)
        ->getJson("/api/sites/korrin-bay/records/$page->id")
        ->assertOk()
        ->json();
    $own = array_values(array_filter($seen['shows'], static fn (array $s): bool => $s['via'] === []));
    $broken = array_values(array_filter($own, static fn (array $s): bool => $s['broken']));
    $paths = static fn (array $shows): array => array_map(
        static fn (array $s): ?string => $s['item']['path'] ?? null,
        $shows,
    );
    expect($paths($own))
        ->toContain('media/people/maren-oake.jpg')
        ->and($broken[0]['sentence'])
        ->toContain('former address')
        ->and($paths($seen['shows']))
        ->toContain('media/brand/korrin-logo.png')
        ->and($seen['is_page'])
        ->toBeTrue();
    $carried = array_values(
        array_filter(
            $seen['shows'],
            static fn (array $s): bool => ($s['item']['path'] ?? '') === 'media/banners/lantern-bakery.jpg',
        ),
    );
    expect(array_column($carried[0]['via'], 'kind'))->toContain('slot', 'banner-set', 'banner');
});

it('lists records with what they show, by kind, state and finding', function (): void {
    $list = fn (string $query): array => $this->as(Role::Viewer)
        ->getJson("/api/sites/korrin-bay/records?$query")
        ->assertOk()
        ->json();
    $over = $list('kind=banner&state=fading');
    expect($over['total'])
        ->toBe(Record::query()->where('kind', 'banner')->where('state', 2)->count())
        ->and(array_unique(array_column($over['records'], 'kind')))
        ->toBe(['banner'])
        ->and($over['records'][0]['strip'])
        ->toHaveCount(1);
    $family = $this->getJson('/api/sites/korrin-bay/findings/former-address/groups')->assertOk()->json();
    expect($list('cause=former-address')['total'])
        ->toBeGreaterThan(0)
        ->toBeLessThanOrEqual(array_sum(array_column($family['groups'], 'references')))
        ->and($list('offset=40&limit=5')['records'])
        ->toHaveCount(5);
    $this->getJson('/api/sites/korrin-bay/findings/found/groups')->assertNotFound();
});

it('counts each facet under the other marks', function (): void {
    $this->as(Role::Viewer);
    $facets = $this->getJson('/api/sites/korrin-bay/media/facets?standing=idle&type=png')->assertOk()->json();
    $idle = array_column($facets['standing'], 'count', 'value');
    $types = array_column($facets['type'], 'count', 'value');
    $items = $this->getJson('/api/sites/korrin-bay/media?standing=idle&type=png')->json();
    expect($idle['idle'])
        ->toBe($items['total'])
        ->and($types['png'])
        ->toBe($items['total'])
        ->and($idle)
        ->toHaveKey('live')
        ->and($types)
        ->toHaveKey('jpeg');
    $copies = $this->getJson('/api/sites/korrin-bay/media?copies=1&sort=same')->json();
    expect($copies['total'])
        ->toBeGreaterThan(1)
        ->and($copies['items'][0]['sha256'])
        ->toBe($copies['items'][1]['sha256']);
});

it('says before any plan what a square picture does to a slot, and that cropping it does nothing', function (): void {
    $this->as(Role::Maintainer);
    $banner = $this->item('banners/lantern-bakery.jpg');
    $upload = $this->sent($this->jpeg(1300, 1300), 'square.jpg');
    $fit = fn (string $more): array => $this->getJson(
        "/api/sites/korrin-bay/media/$banner->id/fit?manner=new-reference&upload=$upload$more",
    )
        ->assertOk()
        ->json();
    $square = $fit('&alt=Bread');
    expect($square['alike'])
        ->toBeFalse()
        ->and($square['places'][0]['says'])
        ->toMatch('~made for [\d,]+ × \d+ and states no size here|box is fixed at~')
        ->and($fit('&alt=Bread&keep_shape=1')['places'])
        ->toBe([]);
});
