<?php

declare(strict_types=1);

use App\Changes\Journal;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\MediaReference;
use App\Models\Plan;
use App\Models\PlanState;
use App\Models\Role;
use App\Plans\PlanDesk;
use App\Reading\ReadSite;
use Illuminate\Support\Facades\DB;
use Ylema\Addresses\OutcomeKind;
use Ylema\Repair\RepairPlanner;
use Ylema\Repair\RepairRequest;

/** All that is sure, planned, applied and read. */
function mendAll(object $test): Change
{
    $plan = app(PlanDesk::class)->make(
        $test->site(),
        new RepairPlanner(new RepairRequest(OutcomeKind::findings())),
        null,
    );
    $change = app(Journal::class)->apply($plan, null, 'after the move');
    app(Journal::class)->work($change);

    return $change->refresh();
}

/** @return array<string, int> cause → references */
function outcomes(): array
{
    return MediaReference::query()
        ->groupBy('outcome')
        ->selectRaw('outcome, count(*) as n')
        ->pluck('n', 'outcome')
        ->map(static fn (mixed $n): int => (int) $n)
        ->all();
}

it('is sure of nothing that the generator planted otherwise', function (): void {
    $truth = [];
    foreach (self::planted()->truth->uses as $use) {
        $truth["{$use['kind']} {$use['key']} {$use['field']} {$use['value']}"] = $use;
    }
    $sure = MediaReference::query()
        ->whereRelation('address', 'sure', true)
        ->with(['record', 'address'])
        ->get();
    $wrong = [];
    foreach ($sure as $reference) {
        $use
            = $truth["{$reference->record->kind} {$reference->record->key} {$reference->field} {$reference->value}"]
            ?? null;
        if ($use === null || $use['file'] !== $reference->address->path) {
            $wrong[] = [$reference->value, $reference->address->path, $use['file'] ?? 'not planted'];
        }
    }
    expect($wrong)->toBe([])->and($sure->count())->toBeGreaterThan(100);
});

it('mends all sure ones in one plan, and takes it back byte for byte', function (): void {
    $this->touched();
    $content = fn (): string => self::content()
        ->query("select md5(string_agg(body || coalesce(extras, ''), '|' order by id)) from entries")
        ->fetchColumn();
    [$before, $bytes] = [outcomes(), $content()];
    $sure = MediaReference::query()->whereRelation('address', 'sure', true)->count();
    $change = mendAll($this);
    expect($change->state)
        ->toBe(ChangeState::Applied)
        ->and($change->title)
        ->toContain('Former address (83)')
        ->and($content())
        ->not->toBe($bytes);
    app(ReadSite::class)->begin($this->site(), null);
    $after = outcomes();
    expect(MediaReference::query()->whereRelation('address', 'sure', true)->count())
        ->toBe(0)
        ->and($after)
        ->not->toHaveKeys(['former-address', 'insecure-scheme', 'letter-case', 'unicode-form', 'encoding', 'moved'])
        ->and($after['found'])
        ->toBe($before['found'] + $sure)
        // What is open stays as it was.
        ->and([$after['missing-file'], $after['foreign-host']])
        ->toBe([$before['missing-file'], $before['foreign-host']]);
    $this->undo($change);
    app(ReadSite::class)->begin($this->site(), null);
    expect($content())->toBe($bytes)->and(outcomes())->toEqualCanonicalizing($before);
});

it('lists the findings of a family by what they ask for, with their cures', function (): void {
    $this->as(Role::Viewer);
    $families = array_column(
        $this->getJson('/api/sites/korrin-bay/findings')->assertOk()->json('families'),
        null,
        'cause',
    );
    expect($families['former-address']['sure'])
        ->toBe($families['former-address']['references'])
        ->and($families['missing-file']['sure'])
        ->toBe(0);
    foreach ($families as $cause => $family) {
        $page = $this->getJson("/api/sites/korrin-bay/findings/$cause/groups?limit=200")
            ->assertOk()
            ->json();
        expect(array_sum(array_column($page['groups'], 'references')))
            ->toBe($family['references'], $cause)
            ->and($page['total'])
            ->toBe(count($page['groups']));
    }
    $first = $this->getJson('/api/sites/korrin-bay/findings/former-address/groups?limit=3')->json();
    $second = $this->getJson(
        '/api/sites/korrin-bay/findings/former-address/groups?limit=3&offset='.$first['next'],
    )->json();
    expect($first['groups'][0]['references'])
        ->toBeGreaterThanOrEqual($first['groups'][2]['references'])
        ->and($first['groups'][0]['cure']['file_id'])
        ->toBeInt()
        ->and(array_intersect(array_column($first['groups'], 'asked'), array_column($second['groups'], 'asked')))
        ->toBe([]);
});

it('makes the plan that was asked for, and refuses a decision for a file that is not there', function (): void {
    $this->touched();
    $gone = $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/findings/missing-file/groups')->json('groups.0');
    $body = fn (string $path): array => [
        'causes' => ['missing-file'],
        'decisions' => [['asked' => $gone['asked'], 'path' => $path]],
    ];
    $this->postJson('/api/sites/korrin-bay/repairs', $body('media/people/maren-oake.jpg'))->assertForbidden();
    $this->as(Role::Maintainer)
        ->postJson('/api/sites/korrin-bay/repairs', $body('media/nowhere.jpg'))
        ->assertStatus(409)
        ->assertJsonPath('detail', 'There is no file or page media/nowhere.jpg on this site. Choose another one.');
    $id = $this->postJson('/api/sites/korrin-bay/repairs', $body('media/people/maren-oake.jpg'))
        ->assertCreated()
        ->json('id');
    $plan = Plan::query()->findOrFail($id);
    expect($plan->state)
        ->toBe(PlanState::Open)
        ->and($plan->sentence)
        ->toStartWith("{$gone['references']} reference");
    $this->postJson('/api/sites/korrin-bay/repairs', ['causes' => ['found']])->assertStatus(422);
});

it('does it on the command line', function (): void {
    $this->touched();
    $this->artisan('ylema:findings', ['site' => 'korrin-bay'])
        ->expectsOutputToContain('former-address          83 references')
        ->assertExitCode(1);
    $this->artisan('ylema:findings', ['site' => 'korrin-bay', '--family' => 'nonsense'])->assertExitCode(2);
    $this->artisan('ylema:findings', ['site' => 'korrin-bay', '--family' => 'moved', '--ndjson' => true])
        ->expectsOutputToContain('"means":"media/2014/lantern-point-light-10.jpg","sure":true')
        ->assertExitCode(1);
    $this->artisan('ylema:repair', ['site' => 'korrin-bay'])->assertExitCode(2);
    $this->artisan('ylema:repair', ['site' => 'korrin-bay', '--sure' => true, '--family' => ['missing-file']])
        ->expectsOutputToContain('None of these findings has one answer')
        ->assertExitCode(4);
    $this->artisan('ylema:repair', ['site' => 'korrin-bay', '--sure' => true, '--dry-run' => true])->assertSuccessful();
    expect(Change::query()->count())->toBe(0);
    $this->artisan('ylema:repair', ['site' => 'korrin-bay', '--sure' => true, '--family' => ['letter-case']])
        ->expectsOutputToContain('is applied')
        ->assertSuccessful();
    expect(outcomes())->not->toHaveKey('letter-case');
});

it('lets findings stand with a reason, counts them no more, and takes that back', function (): void {
    $this->touched();
    $this->as(Role::Maintainer);
    $before = outcomes();
    $group = $this->getJson('/api/sites/korrin-bay/findings/missing-file/groups')->json('groups.0');
    $url = '/api/sites/korrin-bay/findings/missing-file/let-stand';
    $this->postJson($url, ['asked' => $group['asked']])->assertStatus(422);
    $id = $this->postJson($url, ['asked' => $group['asked'], 'reason' => 'The count was lost.'])
        ->assertCreated()
        ->json('id');
    $after = outcomes();
    expect($after['missing-file'])
        ->toBe($before['missing-file'] - $group['references'])
        ->and($after['let-stand'])
        ->toBe($group['references']);
    $asked = array_column(
        $this->getJson('/api/sites/korrin-bay/findings/missing-file/groups')->json('groups'),
        'asked',
    );
    expect($asked)->not->toContain($group['asked']);
    // Reading again leaves it, as long as its cause is the same.
    app(ReadSite::class)->begin($this->site(), null);
    expect(outcomes()['let-stand'])->toBe($group['references']);
    $this->getJson('/api/sites/korrin-bay/let-stand')
        ->assertOk()
        ->assertJsonPath('total', 1)
        ->assertJsonPath('decisions.0.reason', 'The count was lost.')
        ->assertJsonPath('decisions.0.by', 'Mats Ebbing');
    $this->as(Role::Viewer)
        ->deleteJson("/api/sites/korrin-bay/let-stand/$id")
        ->assertForbidden();
    $this->as(Role::Maintainer)
        ->deleteJson("/api/sites/korrin-bay/let-stand/$id")
        ->assertNoContent();
    expect(outcomes())->toEqualCanonicalizing($before);
});

it('counts the broken places of an item without those that are let stand', function (): void {
    $this->touched();
    $reference = MediaReference::query()
        ->where('outcome', 'letter-case')
        ->whereNotNull('media_item_id')
        ->with('address')
        ->firstOrFail();
    $broken = fn (): int => (int) DB::table('media_items')->where('id', $reference->media_item_id)->value('broken');
    $before = $broken();
    $places = MediaReference::query()->where('address_id', $reference->address_id)->count();
    $decision = App\Usage\Findings::letStand(
        $this->site(),
        OutcomeKind::LetterCase,
        (string) $reference->address->asked,
        'So it is printed.',
        null,
    );
    expect($broken())->toBe($before - $places);
    App\Usage\Findings::takeBack($decision);
    expect($broken())->toBe($before);
});

it('leads links to where their pages are now, and takes out what a person says', function (): void {
    $this->touched();
    $truth = array_column(self::planted()->truth->links, null, 'value');
    $body = static fn (string $key): string => self::contentValue('select body from entries where id = ?', $key);
    $draft = array_values(array_filter(
        self::planted()->truth->links,
        static fn (array $link): bool => str_starts_with($link['value'], '/species/'),
    ))[0];
    $before = $body($draft['key']);
    $this->as(Role::Maintainer);
    $id = $this->postJson('/api/sites/korrin-bay/repairs', [
        'causes' => ['dead-link', 'by-redirect', 'former-address', 'missing-file'],
        'decisions' => [
            ['asked' => ltrim($draft['value'], '/'), 'path' => null],
            ['asked' => 'journal/harbour-letter', 'path' => 'journal/harbour-letter-5'],
            ['asked' => 'media/2013/founders.jpg', 'path' => null],
        ],
    ])->assertCreated()->json('id');
    $change = $this->apply(Plan::query()->findOrFail($id));
    expect($change->state)
        ->toBe(ChangeState::Applied)
        ->and($change->plan->outline['notes'] ?? [])
        ->toContain(
            '2 places are taken out of their text; the steps show every byte that goes. Of links, the words stay.',
        )
        ->and($body($draft['key']))
        ->toEndWith("<p>What it was</p>\n")
        ->and($body($truth['/visit/times#winter']['key']))
        ->toContain('<a href="/visit/opening-hours#winter">When we are open</a>')
        // What only said where somebody came from belongs to the page as before.
        ->and($body($truth['https://www.korrin-observatory.example/bay/old-hours?from=log']['key']))
        ->toContain('/visit/opening-hours?from=log">The hours</a>')
        ->and($body($truth['https://www.korrin-observatory.example/bay/journal/harbour-letter/']['key']))
        ->toContain('journal/harbour-letter-5">The letter</a>')
        ->and(self::contentValue("select body from entries where slug = 'history'"))
        ->not->toContain('founders.jpg');
    $this->undo($change);
    expect($body($draft['key']))
        ->toBe($before)
        ->and(self::contentValue("select body from entries where slug = 'history'"))
        ->toContain('founders.jpg');
});

it('knows where a renamed page is, and that a page is gone', function (): void {
    $this->touched();
    self::content()->exec("update entries set slug = 'journal/hide-nine' where slug = 'journal/from-the-hide-no-9'");
    self::content()->exec("delete from entries where slug = 'walks'");
    app(ReadSite::class)->begin($this->site(), null);
    $renamed = DB::table('findings')->where('asked', 'journal/from-the-hide-no-9')->get();
    expect($renamed->pluck('outcome')->unique()->all())
        ->toBe(['dead-link'])
        ->and($renamed->pluck('path')->unique()->all())
        ->toBe(['journal/hide-nine'])
        ->and($renamed->pluck('sure')->unique()->all())
        ->toBe([true])
        ->and(DB::table('findings')->where('asked', 'walks')->where('outcome', 'dead-link')->count())
        ->toBeGreaterThan(0);
    // It comes back, and all is well again.
    self::content()->exec("update entries set slug = 'journal/from-the-hide-no-9' where slug = 'journal/hide-nine'");
    app(ReadSite::class)->begin($this->site(), null);
    expect(DB::table('findings')->where('asked', 'journal/from-the-hide-no-9')->where('outcome', 'dead-link')->count())
        ->toBe(0);
});

it('gives an id that names nothing another item, by what it was called', function (): void {
    $this->touched();
    $gone = $this->item('people/lise-holm.jpg');
    $id = $gone->source_id;
    $page = self::contentValue("select id from entries where slug = 'contact'");
    self::content()->exec("update entries set featured_id = $id where slug = 'contact'");
    app(ReadSite::class)->begin($this->site(), null);
    self::content()->exec("delete from media where id = $id");
    self::content()->exec(
        "update media set title = (select '".str_replace("'", "''", $gone->title)."')"
            ." where path = 'media/people/maren-oake.jpg'",
    );
    app(ReadSite::class)->begin($this->site(), null);
    $group = $this->as(Role::Maintainer)
        ->getJson('/api/sites/korrin-bay/findings/missing-item/groups')
        ->assertOk()
        ->json('groups.0');
    expect($group['asked'])
        ->toBe($id)
        ->and($group['choosable'])
        ->toBeTrue()
        ->and(array_column($group['candidates'], 'path'))
        ->toContain('media/people/maren-oake.jpg');
    $plan = $this->postJson('/api/sites/korrin-bay/repairs', [
        'causes' => ['missing-item'],
        'decisions' => [['asked' => $id, 'path' => 'media/people/maren-oake.jpg']],
    ])->assertCreated()->json('id');
    $change = $this->apply(Plan::query()->findOrFail($plan));
    $new = self::contentValue("select id from media where path = 'media/people/maren-oake.jpg'");
    expect($change->state)
        ->toBe(ChangeState::Applied)
        ->and(self::contentValue('select featured_id from entries where id = ?', $page))
        ->toBe($new);
    $this->undo($change);
    expect(self::contentValue('select featured_id from entries where id = ?', $page))->toBe($id);
});
