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
        ->toContain('Former address (81)')
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
        ->assertJsonPath('detail', 'There is no file media/nowhere.jpg on this site. Choose another one.');
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
        ->expectsOutputToContain('former-address          81 references')
        ->assertExitCode(1);
    $this->artisan('ylema:findings', ['site' => 'korrin-bay', '--family' => 'nonsense'])->assertExitCode(2);
    $this->artisan('ylema:findings', ['site' => 'korrin-bay', '--family' => 'moved', '--ndjson' => true])
        ->expectsOutputToContain('"means":"media/2014/lantern-point-light-10.jpg","sure":true')
        ->assertExitCode(1);
    $this->artisan('ylema:repair', ['site' => 'korrin-bay'])->assertExitCode(2);
    $this->artisan('ylema:repair', ['site' => 'korrin-bay', '--sure' => true, '--family' => ['missing-file']])
        ->expectsOutputToContain('None of these findings has one answer')
        ->assertExitCode(1);
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
