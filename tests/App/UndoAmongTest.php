<?php

declare(strict_types=1);

use App\Changes\Journal;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\Role;
use App\Models\StepState;
use App\Plans\PlanDesk;
use App\Reading\ReadSite;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Ylema\Swap\Manner;
use Ylema\Swap\SwapPlanner;
use Ylema\Swap\SwapRequest;

/*
 * An older change is undone among later ones of one's own.
 */

beforeEach(fn () => $this->touched());

/** One picture put in the place of another everywhere, then read again. */
function put(object $test, string $from, string $to): Change
{
    $request = new SwapRequest($test->item($from)->id, Manner::NewReference, $test->item($to)->id);
    $plan = app(PlanDesk::class)->make($test->site(), new SwapPlanner($request), null);
    $change = app(Journal::class)->apply($plan, null, '')->refresh();
    app(ReadSite::class)->begin($test->site(), null);

    return $change;
}

/** A record with two pictures of which neither is where the other is, in one field. */
function twoPictures(object $test): array
{
    $row = DB::selectOne(
        "select r.key, min(i.path) as one, max(i.path) as other from media_references m join records r on r.id = m.record_id
            join media_items i on i.id = m.media_item_id where r.kind = 'post' and m.field = 'body' and r.site_id = ?
            and m.names = 'address' and m.role like 'img%' group by r.key having count(distinct i.path) = 2
            order by r.key limit 1",
        [$test->site()->id],
    );

    return [$row->key, substr($row->one, 6), substr($row->other, 6)];
}

it('takes an older change back where later ones touched other bytes of the same fields', function (): void {
    [$key, $one, $other] = twoPictures($this);
    $before = $this->contentDigest();
    $body = fn (): string => self::contentValue('select body from entries where id = ?', $key);
    $first = put($this, $one, 'people/lise-holm.jpg');
    $second = put($this, $other, 'people/tobin-vale.jpg');
    $both = $body();

    expect($this->undo($first)->state)->toBe(ChangeState::Undone)
        ->and($body())->toContain('tobin-vale')->not->toContain('lise-holm')->not->toBe($both);
    app(ReadSite::class)->begin($this->site(), null);
    // Then the later one, on which the undoing of the first stands.
    expect($this->undo($second)->state)->toBe(ChangeState::Undone)->and($this->contentDigest())->toBe($before);
});

it('says which change stands on it where both wrote the same bytes, and never that somebody else did', function (): void {
    $before = $this->contentDigest();
    $first = put($this, 'people/maren-oake.jpg', 'people/lise-holm.jpg');
    $uses = $first->counts['done'];
    $second = put($this, 'people/lise-holm.jpg', 'people/tobin-vale.jpg');
    $first = $this->undo($first);
    $messages = $first->steps()->where('state', StepState::Kept)->pluck('message')->unique()->values()->all();
    expect($first->state)->toBe(ChangeState::UndoneInPart)
        ->and($first->counts['kept'])->toBe($uses)
        ->and($messages)->toHaveCount(1)
        ->and($messages[0])->toBe("Change {$second->id}, \"{$second->title}\", wrote over the same bytes later and "
            .'stands on this one. Undo that one first, then this.')
        ->and($first->steps()->where('stands_on', $second->id)->count())->toBe($uses);
    $this->as(Role::Viewer)
        ->getJson("/api/sites/{$this->site()->slug}/plans/{$first->plan_id}/steps?state[]=kept")
        ->assertOk()
        ->assertJsonPath('steps.0.stands_on', $second->id);
    // As it says: that one first, then this.
    expect($this->undo($second)->state)->toBe(ChangeState::Undone)
        ->and($this->undo($first)->state)->toBe(ChangeState::Undone)
        ->and($first->steps()->whereNotNull('stands_on')->count())->toBe(0)
        ->and($this->contentDigest())->toBe($before);
});

it('undoes the later ones first where that is asked for, and then this one', function (): void {
    $before = $this->contentDigest();
    $first = put($this, 'people/maren-oake.jpg', 'people/lise-holm.jpg');
    $second = put($this, 'people/lise-holm.jpg', 'people/tobin-vale.jpg');
    $this->undo($first);
    $at = "/api/sites/{$this->site()->slug}/changes/{$first->id}";
    $this->as(Role::Maintainer)->getJson($at)->assertOk()->assertJsonPath('stands_on', [
        ['id' => $second->id, 'title' => $second->title, 'steps' => $first->refresh()->counts['kept']],
    ]);
    $this->as(Role::Maintainer)->postJson("$at/undo", ['with_later' => true])->assertStatus(202);
    expect($second->refresh()->state)->toBe(ChangeState::Undone)
        ->and($first->refresh()->state)->toBe(ChangeState::Undone)
        ->and($first->undo_after)->toBeNull()
        ->and($this->contentDigest())->toBe($before);
});

it('knows what somebody else wrote between two changes of its own', function (): void {
    [$key, $one, $other] = twoPictures($this);
    $first = put($this, $one, 'people/lise-holm.jpg');
    self::content()->exec("update entries set body = body || ' by hand' where id = $key");
    app(ReadSite::class)->begin($this->site(), null);
    put($this, $other, 'people/tobin-vale.jpg');
    $first = $this->undo($first);
    expect($first->steps()->where('state', StepState::Kept)->where('record_key', $key)->value('message'))
        ->toContain('was changed by someone else')
        ->and(self::contentValue('select body from entries where id = ?', $key))
        ->toContain('lise-holm', 'tobin-vale', ' by hand');
});

it('goes on with a way back that it had noted when its process died', function (): void {
    [$key, $one, $other] = twoPictures($this);
    $before = $this->contentDigest();
    $first = put($this, $one, 'people/lise-holm.jpg');
    $second = put($this, $other, 'people/tobin-vale.jpg');
    $this->undo($first);
    // As if it had died behind the write, and before it noted that.
    $first->steps()->where('record_key', $key)->update(['state' => StepState::Done]);
    $first->update(['state' => ChangeState::Undoing]);
    app(Journal::class)->work($first);
    expect($first->refresh()->state)->toBe(ChangeState::Undone)
        ->and($this->undo($second)->state)->toBe(ChangeState::Undone)
        ->and($this->contentDigest())->toBe($before);
});

it('says that it was a change of its own that came between a plan and its apply', function (): void {
    $late = $this->plan('people/maren-oake.jpg', 'people/tobin-vale.jpg');
    $first = put($this, 'people/maren-oake.jpg', 'people/lise-holm.jpg');
    $change = $this->apply($late);
    $messages = $change->steps()->where('state', StepState::Refused)->pluck('message')->unique()->values()->all();
    expect($messages)->toBe([
        "Change {$first->id}, \"{$first->title}\", wrote to it since this plan was made. Plan again to take that along.",
    ]);
});

it('undoes the later changes first on the command line, where that is asked for', function (): void {
    $before = $this->contentDigest();
    $first = put($this, 'people/maren-oake.jpg', 'people/lise-holm.jpg');
    $second = put($this, 'people/lise-holm.jpg', 'people/tobin-vale.jpg');
    $third = put($this, 'people/tobin-vale.jpg', 'people/isla-ferrant.jpg');
    expect(Artisan::call('ylema:undo', ['change' => (string) $first->id]))
        ->toBe(4)
        ->and(Artisan::output())
        ->toContain("bin/ylema undo {$first->id} --with-later")
        ->and(Artisan::call('ylema:undo', ['change' => (string) $first->id, '--with-later' => true]))
        ->toBe(0)
        ->and(array_map(fn (Change $one): ChangeState => $one->refresh()->state, [$first, $second, $third]))
        ->toBe([ChangeState::Undone, ChangeState::Undone, ChangeState::Undone])
        ->and($this->contentDigest())
        ->toBe($before);
});
