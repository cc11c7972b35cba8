<?php

declare(strict_types=1);

use App\Models\Plan;
use App\Models\Role;
use App\Reading\ReadSite;
use Illuminate\Support\Facades\DB;

/*
 * Redirects in the site's own table, and in the list for its web server.
 */

/** @return list<array<string, mixed>> the rows of the site's own table for some addresses */
function rowsOf(string ...$from): array
{
    $content = new PDO(config('demo.dsn'), config('demo.user'), config('demo.password'));
    $in = implode(', ', array_map($content->quote(...), $from));

    return $content
        ->query("select old_path, new_path, code from redirects where old_path in ($in) order by 1")
        ->fetchAll(PDO::FETCH_ASSOC);
}

/** The plan that was asked for. */
function redirectPlan(object $test, array $request): Plan
{
    $id = $test->as(Role::Maintainer)
        ->postJson('/api/sites/korrin-bay/redirects', $request)
        ->assertCreated()
        ->json('id');

    return Plan::query()->findOrFail($id);
}

it('reads the table of the site, and lists it', function (): void {
    $list = $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/redirects')->assertOk()->json();
    expect($list['total'])
        ->toBe(8)
        ->and($list['table'])
        ->toBe('redirects')
        ->and(array_column($list['redirects'], 'to', 'from')['old-hours'])
        ->toBe('/visit/times')
        ->and($this->getJson('/api/sites/korrin-bay/redirects?q=hours')->json('total'))
        ->toBe(2)
        ->and($this->getJson('/api/sites/korrin-bay/redirects?limit=3&offset=6')->json('redirects'))
        ->toHaveCount(2);
    $this->postJson('/api/sites/korrin-bay/redirects', ['drop' => ['shop']])->assertForbidden();
});

it('writes into the table of the site by a plan, and takes it back row by row', function (): void {
    $this->touched();
    $before = rowsOf('/tides/pdf', '/shop', '/brand/new');
    $change = $this->apply(redirectPlan($this, [
        'put' => [
            ['from' => '/tides/pdf', 'to' => '/tides', 'status' => 301],
            ['from' => 'https://korrinbay.example/brand/new/', 'to' => 'https://other.example/', 'status' => 302],
        ],
        'drop' => ['shop'],
    ]));
    expect($change->state->value)
        ->toBe('applied')
        ->and(rowsOf('/tides/pdf', '/shop', '/brand/new'))
        ->toEqual([
            ['old_path' => '/brand/new', 'new_path' => 'https://other.example/', 'code' => 302],
            ['old_path' => '/tides/pdf', 'new_path' => '/tides', 'code' => 301],
        ])
        ->and(DB::table('redirects')->where('from_path', 'brand/new')->value('in_table'))
        ->toBeTrue();
    $this->undo($change);
    expect(rowsOf('/tides/pdf', '/shop', '/brand/new'))->toEqual($before);
});

it('leaves alone what somebody else changed meanwhile', function (): void {
    $this->touched();
    $id = $this->as(Role::Maintainer)
        ->postJson('/api/sites/korrin-bay/redirects', ['drop' => ['shop', 'tides/pdf']])
        ->json('id');
    self::content()->exec("update redirects set new_path = '/kiosk', code = 301 where old_path = '/shop'");
    $change = $this->apply(Plan::query()->findOrFail($id));
    expect($change->state->value)
        ->toBe('applied-in-part')
        ->and(rowsOf('/shop')[0]['new_path'])
        ->toBe('/kiosk')
        ->and(rowsOf('/tides/pdf'))
        ->toBe([]);
});

it('keeps a list of its own where the site has no table', function (): void {
    $this->touched();
    $map = preg_replace('~^redirects: .*$~m', '', $this->site()->field_map);
    $this->site()->update(['field_map' => $map]);
    app(ReadSite::class)->begin($this->site(), null);
    expect(DB::table('redirects')->count())->toBe(0);
    $change = $this->apply(
        redirectPlan($this, ['put' => [['from' => '/visit/times', 'to' => '/visit', 'status' => 308]]]),
    );
    expect(rowsOf('/visit/times')[0]['new_path'])
        ->toBe('/visit/opening-hours')
        ->and(DB::table('redirects')->where('from_path', 'visit/times')->value('to_address'))
        ->toBe('/visit');
    // A link to such an address leads there by a redirect from now on.
    app(ReadSite::class)->begin($this->site(), null);
    expect(DB::table('findings')->where('asked', 'visit/times')->value('path'))->toBe('visit');
    $csv = $this->get('/api/sites/korrin-bay/redirects/export?as=csv')->assertOk();
    expect($csv->streamedContent())->toBe("from,to,status\r\n/visit/times,/visit,308\r\n");
    $this->undo($change);
    expect(DB::table('redirects')->count())->toBe(0);
});

it('hands them over in every form, also for the former address', function (string $form, string $type): void {
    $this->as(Role::Viewer);
    $file = $this->get("/api/sites/korrin-bay/redirects/export?as=$form")->assertOk();
    expect($file->headers->get('Content-Type'))
        ->toContain($type)
        ->and($file->streamedContent())
        ->toContain('/visit/times')
        ->and($this->get("/api/sites/korrin-bay/redirects/export?as=$form&former=1")->streamedContent())
        ->toContain('/bay/media/people/maren-oake.w160.jpg');
    $this->artisan('ylema:redirects', ['site' => 'korrin-bay', '--as' => $form])->assertSuccessful();
})->with([
    'nginx' => ['nginx', 'text/plain'],
    'Apache' => ['apache', 'text/plain'],
    'CSV' => ['csv', 'text/csv'],
    'JSON' => ['json', 'application/json'],
]);

it('says what is wrong with what was asked for', function (array $put, string $words): void {
    $this->as(Role::Maintainer)
        ->postJson('/api/sites/korrin-bay/redirects', ['put' => [$put]])
        ->assertStatus(409)
        ->assertJsonPath('detail', fn (string $said): bool => str_contains($said, $words));
})->with([
    'another site' => [['from' => 'https://x.example/', 'to' => '/', 'status' => 301], 'no address of this site'],
    'nowhere' => [['from' => '/a', 'to' => '', 'status' => 301], 'Say where'],
    'a script' => [['from' => '/a', 'to' => 'javascript:alert(1)', 'status' => 301], 'Say where'],
]);

it('says paths as the table says its own, without the slash before them', function (): void {
    $this->touched();
    self::content()->exec("update redirects set old_path = ltrim(old_path, '/'), new_path = ltrim(new_path, '/')");
    $change = $this->apply(redirectPlan($this, [
        'put' => [['from' => '/brand/new', 'to' => '/tides', 'status' => 301]],
    ]));
    expect(rowsOf('brand/new', '/brand/new'))
        ->toBe([['old_path' => 'brand/new', 'new_path' => 'tides', 'code' => 301]])
        ->and($this->undo($change)->state->value)
        ->toBe('undone')
        ->and(rowsOf('brand/new', '/brand/new'))
        ->toBe([]);
});

it('still sends on what the world may ask for at the former address, once all is mended', function (): void {
    $this->touched();
    $list = fn (): string => $this->as(Role::Viewer)
        ->get('/api/sites/korrin-bay/redirects/export?as=csv&former=1')
        ->assertOk()
        ->streamedContent();
    $before = array_filter(explode("\r\n", $list()));
    $plan = app(App\Plans\PlanDesk::class)->make(
        $this->site(),
        new Ylema\Repair\RepairPlanner(
            new Ylema\Repair\RepairRequest([Ylema\Addresses\OutcomeKind::FormerAddress]),
        ),
        null,
    );
    $this->apply($plan);
    // Two that nothing names at the former address: one that people asked for, and one that a page still shows.
    DB::table('asked_for')->insert([
        'site_id' => $this->site()->id, 'path' => 'media/archive/left-07.jpg', 'visitors' => 2, 'last_at' => now(),
    ]);
    DB::table('sightings')->insert([
        'site_id' => $this->site()->id,
        'record_id' => DB::table('records')->where('is_page', true)->min('id'),
        'url_hash' => md5('former'),
        'url' => 'https://www.korrin-observatory.example/bay/media/archive/left-09.jpg',
        'path' => 'media/archive/left-09.jpg',
        'seen' => true,
        'mapped' => false,
    ]);
    $after = $list();
    foreach ($before as $line) {
        if (str_contains($line, '/media/')) {
            expect($after)->toContain($line);
        }
    }
    expect($after)->toContain('/media/archive/left-07.jpg,')->toContain('/media/archive/left-09.jpg,');
});
