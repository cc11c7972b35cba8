<?php

declare(strict_types=1);

use App\Models\Record;
use App\Models\Role;
use App\Reading\RefreshIndex;
use Illuminate\Support\Facades\DB;

/** @return array<string, mixed> what is known of the page at an address */
function pageAt(object $test, string $address): array
{
    $id = Record::query()->where('address', $address)->value('id');

    return $test->as(Role::Viewer)->getJson("/api/sites/korrin-bay/records/$id")->assertOk()->json();
}

it('knows where a page is linked, by whatever address', function (): void {
    $linked = pageAt($this, 'journal/from-the-hide-no-9')['linked_from'];
    expect($linked['total'])
        ->toBe(1)
        ->and(array_column($linked['records'], 'title'))
        // It says the address that the site had before its move.
        ->toBe(['From the hide, no. 15']);
    $walks = pageAt($this, 'walks')['linked_from'];
    expect(array_column($walks['records'], 'title'))->toContain('header');
});

it('names the links that lead to no page', function (): void {
    $page = pageAt($this, 'journal/from-the-hide-no-21');
    expect($page['leads_nowhere']['total'])
        ->toBe(1)
        ->and($page['leads_nowhere']['links'][0]['value'])
        ->toBe('/journal/the-great-storm')
        ->and($page['leads_nowhere']['links'][0]['field'])
        ->toBe('body')
        ->and(pageAt($this, 'walks')['leads_nowhere']['total'])
        ->toBe(0);
});

it('never counts a link as a use of media', function (): void {
    expect(DB::table('links')->count())
        ->toBeGreaterThan(20)
        ->and(
            DB::table('media_references')
                ->where('names', 'address')
                ->whereNull('address_id')
                ->count(),
        )
        ->toBe(0)
        ->and(DB::table('addresses')->where('outcome', 'page')->where('leads', false)->count())
        ->toBe(0)
        // A link to a file is a use of that file, and no link to a page.
        ->and(DB::table('addresses')->where('leads', true)->where('asked', 'like', 'media/%')->count())
        ->toBe(0);
});

it('follows a page to its new address, and a record to its new links', function (): void {
    $this->touched();
    $content = self::content();
    $content->exec("update entries set slug = 'journal/hide-nine' where slug = 'journal/from-the-hide-no-9'");
    $content->exec(
        "update entries set body = body || '<p><a href=\"/walks/\">Walks</a> <a href=\"/walks?x=1#top\">more</a></p>' "
            ."where slug = 'journal/from-the-hide-no-15'",
    );
    $this->artisan('ylema:read', ['site' => 'korrin-bay'])->assertSuccessful();
    expect(pageAt($this, 'journal/hide-nine')['linked_from']['total'])
        ->toBe(0)
        ->and(pageAt($this, 'journal/from-the-hide-no-15')['leads_nowhere']['total'])
        ->toBe(1)
        ->and(array_column(pageAt($this, 'walks')['linked_from']['records'], 'title'))
        ->toContain('From the hide, no. 15')
        ->and(DB::table('staged_links')->count())
        ->toBe(0);
    $content->exec("delete from entries where slug = 'journal/from-the-hide-no-15'");
    $this->artisan('ylema:read', ['site' => 'korrin-bay'])->assertSuccessful();
    expect(array_column(pageAt($this, 'walks')['linked_from']['records'], 'title'))->not->toContain(
        'From the hide, no. 15',
    );
});

it('prefers the page that is known by its query', function (): void {
    $this->touched();
    $site = $this->site()->id;
    $page = fn (string $address): int => DB::table('records')->insertGetId([
        'site_id' => $site,
        'kind' => 'page',
        'key' => $address,
        'title' => $address,
        'address' => $address,
        'is_page' => true,
        'everywhere' => false,
        'state' => 0,
        'hash' => str_repeat('0', 32),
        'content_hash' => '',
    ]);
    [$plain, $asked] = [$page('index.php'), $page('index.php?p=7')];
    // What only machines follow is no link.
    self::content()->exec(
        "update entries set body = '<a href=\"/index.php?p=7\">a</a> <a href=\"/index.php?p=8\">b</a>"
            ."<link rel=canonical href=/index.php><q cite=/index.php>c</q>' where slug = 'walks'",
    );
    $walks = (string) Record::query()->where('address', 'walks')->value('key');
    app(RefreshIndex::class)->refresh($this->site(), [['page', [$walks]]], [], false);
    $pages = DB::table('links as l')
        ->join('addresses as a', 'a.id', '=', 'l.address_id')
        ->where('a.asked', 'like', 'index.php%')
        ->orderBy('l.start')
        ->pluck('a.page_id')
        ->all();
    expect($pages)->toBe([$asked, $plain]);
});
