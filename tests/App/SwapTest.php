<?php

declare(strict_types=1);

use App\Changes\Journal;
use App\Changes\PlanRefused;
use App\Changes\SwapPlans;
use App\Changes\SwapRequest;
use App\Media\Uploads;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\MediaReference;
use App\Models\Plan;
use App\Models\Role;
use Illuminate\Support\Facades\Queue;

function plan(object $test, string $from, ?string $to, bool $sameAddress = false, ?string $upload = null, ?array $places = null): Plan
{
    return app(SwapPlans::class)->make($test->site(), new SwapRequest($test->item($from)->id, $sameAddress, $to === null ? null : $test->item($to)->id, $upload, $places), null);
}

beforeEach(function (): void {
    // Public pages are looked at in the browser tests; here nothing answers on those ports.
    $this->site()->update(['reach_at' => ['korrinbay.example' => 'http://127.0.0.1:9']]);
});

it('swaps a portrait in every place it stands in, whatever the spelling, and undoes it byte for byte', function (): void {
    $before = $this->contentDigest();
    $files = $this->fileHashes();
    $old = $this->item('people/maren-oake.jpg');
    $uses = $old->uses;
    $plan = plan($this, 'people/maren-oake.jpg', 'people/isla-ferrant.jpg');

    expect($plan->summary['references'])->toBe($uses)->and($plan->summary['records'])->toBe(25)->and($this->contentDigest())->toBe($before);

    $change = app(Journal::class)->apply($plan, null, 'She left');
    $change->refresh();
    $this->touched();
    expect($change->state)->toBe(ChangeState::Applied)
        ->and(self::contentValue("select count(*) from entries where body like '%maren-oake%'"))->toBe('0')
        ->and($old->refresh()->uses)->toBe(0)->and($old->standing)->toBe('idle')
        ->and($this->item('people/isla-ferrant.jpg')->uses)->toBe($uses + 1)
        // A reference to the former address is mended on the way.
        ->and(self::contentValue('select body from entries where id = 103'))->toContain('src="https://korrinbay.example/media/people/isla-ferrant-160x160.jpg"');

    $change = app(Journal::class)->undo($change, null)->refresh();
    expect($change->state)->toBe(ChangeState::Undone)->and($this->contentDigest())->toBe($before)->and($this->fileHashes())->toBe($files)
        ->and($this->item('people/maren-oake.jpg')->uses)->toBe($uses);
});

it('changes nothing but the bytes of the references', function (): void {
    $body = self::contentValue('select body from entries where id = 15');
    $plan = plan($this, 'brand/korrin-logo-2014.png', 'brand/korrin-logo.png');
    app(Journal::class)->apply($plan, null, '');
    $this->touched();
    $after = self::contentValue('select body from entries where id = 15');
    expect($after)->not->toBe($body)
        ->and(str_replace('korrin-logo.png', 'korrin-logo-2014.png', preg_replace('~korrin-logo-(\d+x\d+)\.png~', 'korrin-logo-2014-$1.png', $after)))->toBe($body);
});

it('swaps featured pictures, banners, galleries, json and serialized fields by id and by address', function (): void {
    $item = $this->item('birds/flock-03.jpg');
    $roles = MediaReference::query()->where('media_item_id', $item->id)->pluck('layers')->unique()->all();
    expect(count($roles))->toBeGreaterThan(1);
    $change = app(Journal::class)->apply(plan($this, 'birds/flock-03.jpg', 'birds/flock-09.jpg'), null, '')->refresh();
    $this->touched();
    expect($change->state)->toBe(ChangeState::Applied)->and($item->refresh()->uses)->toBe(0);
    foreach (self::content()->query('select extras from entries where extras is not null')->fetchAll(PDO::FETCH_COLUMN) as $extras) {
        expect(@unserialize($extras))->not->toBeFalse();
    }
});

it('puts new bytes behind the same address and draws each rendition again in its own size', function (): void {
    $before = $this->contentDigest();
    $files = $this->fileHashes();
    $upload = app(Uploads::class)->keep($this->jpeg(1400, 1000), 'new face.jpg');
    $plan = plan($this, 'people/tobin-vale.jpg', null, true, $upload['token']);
    $change = app(Journal::class)->apply($plan, null, '')->refresh();
    $this->touched();
    $after = $this->fileHashes();
    $changed = array_keys(array_diff_assoc($after, $files));
    expect($change->state)->toBe(ChangeState::Applied)->and($this->contentDigest())->toBe($before)
        ->and($changed)->toHaveCount(4)->and(array_keys($after))->toBe(array_keys($files))
        ->and(getimagesize(self::folder().'/site/media/people/tobin-vale-150x150.jpg')[0])->toBe(150)
        ->and(getimagesize(self::folder().'/site/media/people/tobin-vale-480x480.jpg')[1])->toBe(480)
        ->and($this->item('people/tobin-vale.jpg')->files()->where('is_original', true)->value('width'))->toBe(1400);
    app(Journal::class)->undo($change, null);
    expect($this->fileHashes())->toBe($files);
});

it('adds an uploaded picture as an item of its own and takes it away again on undo', function (): void {
    $before = $this->contentDigest();
    $files = $this->fileHashes();
    $upload = app(Uploads::class)->keep($this->jpeg(1200, 800), 'Light house!.jpg');
    $change = app(Journal::class)->apply(plan($this, 'people/maren-oake.jpg', null, false, $upload['token']), null, '')->refresh();
    $this->touched();
    expect($change->state)->toBe(ChangeState::Applied)
        ->and($this->item('people/light-house.jpg')->uses)->toBe(25)->and($this->item('people/light-house.jpg')->source_id)->not->toBeNull()
        ->and(is_file(self::folder().'/site/media/people/light-house-150x150.jpg'))->toBeTrue();
    app(Journal::class)->undo($change, null);
    expect($this->contentDigest())->toBe($before)->and($this->fileHashes())->toBe($files);
});

it('edits only the chosen places', function (): void {
    $references = MediaReference::query()->where('media_item_id', $this->item('people/maren-oake.jpg')->id)->orderBy('id')->limit(3)->pluck('id')->all();
    $change = app(Journal::class)->apply(plan($this, 'people/maren-oake.jpg', 'people/lise-holm.jpg', false, null, $references), null, '')->refresh();
    $this->touched();
    expect($change->state)->toBe(ChangeState::Applied)->and($this->item('people/maren-oake.jpg')->uses)->toBe(22);
});

it('leaves a record alone that somebody changed between plan and apply, and plans again with their change', function (): void {
    $plan = plan($this, 'people/maren-oake.jpg', 'people/lise-holm.jpg');
    $this->touched();
    self::content()->exec("update entries set body = body || '<p>A word added meanwhile.</p>' where id = 103");
    $change = app(Journal::class)->apply($plan, null, '')->refresh();
    $refused = $change->writes()->where('state', 'refused')->get();
    expect($change->state)->toBe(ChangeState::AppliedInPart)->and($refused)->toHaveCount(1)
        ->and($refused[0]->message)->toContain('changed by someone else')->toContain('Plan again')
        ->and(self::contentValue('select body from entries where id = 103'))->toContain('maren-oake')->toEndWith('<p>A word added meanwhile.</p>');

    // The index still knows the old text, so the plan says that the record must be read first; then it goes through.
    $again = app(SwapPlans::class)->again($plan->refresh(), null);
    expect($again->writes()->whereNotNull('problem')->value('problem'))->toContain('Read the site again');
    app(App\Reading\ReadSite::class)->begin($this->site(), null);
    $second = app(Journal::class)->apply(app(SwapPlans::class)->again($plan->refresh(), null), null, '')->refresh();
    expect($second->state)->toBe(ChangeState::Applied)
        ->and(self::contentValue('select body from entries where id = 103'))->toContain('lise-holm')->toEndWith('<p>A word added meanwhile.</p>');
});

it('keeps what somebody changed after it when it is undone, and says so', function (): void {
    $change = app(Journal::class)->apply(plan($this, 'people/maren-oake.jpg', 'people/lise-holm.jpg'), null, '')->refresh();
    $this->touched();
    self::content()->exec("update entries set body = body || ' later' where id = 103");
    $change = app(Journal::class)->undo($change, null)->refresh();
    expect($change->state)->toBe(ChangeState::UndoneInPart)->and($change->writes()->where('state', 'kept')->count())->toBe(1)
        ->and(self::contentValue('select body from entries where id = 103'))->toContain('lise-holm')->toEndWith(' later')
        ->and(self::contentValue('select body from entries where id = 109'))->toContain('maren-oake');
});

it('finishes a change whose worker was killed in the middle', function (): void {
    $before = $this->contentDigest();
    $plan = plan($this, 'people/maren-oake.jpg', 'people/lise-holm.jpg');
    $this->touched();
    // Slow writes leave time to kill the worker between two of them.
    self::content()->exec("create or replace function slowly() returns trigger language plpgsql as 'begin perform pg_sleep(0.08); return new; end'");
    self::content()->exec('create trigger slowly before update on entries for each row execute function slowly()');
    Queue::fake();
    $change = app(Journal::class)->apply($plan, null, '');
    $worker = proc_open([PHP_BINARY, base_path('artisan'), 'ylema:recover'], [1 => ['file', '/dev/null', 'w'], 2 => ['file', '/dev/null', 'w']], $pipes, null, [...getenv(), 'DB_DATABASE' => 'ylema_app', 'QUEUE_CONNECTION' => 'database']);
    for ($i = 0; $i < 400 && $change->writes()->where('state', 'written')->count() < 3; $i++) {
        usleep(20_000);
    }
    proc_terminate($worker, SIGKILL);
    proc_close($worker);
    $written = $change->writes()->where('state', 'written')->count();
    expect($written)->toBeGreaterThan(2)->toBeLessThan(25)->and($change->refresh()->state)->toBe(ChangeState::Applying);

    self::content()->exec('drop trigger slowly on entries');
    expect(app(Journal::class)->recover())->toBe(1)->and($change->refresh()->state)->toBe(ChangeState::Applied)
        ->and($change->writes()->where('state', 'written')->count())->toBe(25)
        ->and(self::contentValue("select count(*) from entries where body like '%maren-oake%'"))->toBe('0');
    app(Journal::class)->undo($change, null);
    app(Journal::class)->work($change);
    expect($change->refresh()->state)->toBe(ChangeState::Undone)->and($this->contentDigest())->toBe($before);
});

it('knows a write that was made but not yet noted when the process died', function (): void {
    $plan = plan($this, 'people/maren-oake.jpg', 'people/lise-holm.jpg');
    $this->touched();
    Queue::fake();
    $change = app(Journal::class)->apply($plan, null, '');
    app(Journal::class)->work($change);
    // As if the last note had been lost with the process.
    $change->writes()->where('record_key', '103')->update(['state' => 'pending']);
    $change->update(['state' => ChangeState::Applying]);
    app(Journal::class)->recover();
    expect($change->refresh()->state)->toBe(ChangeState::Applied)->and($change->writes()->where('state', 'written')->count())->toBe(25);
});

it('refuses a plan that makes no sense with a sentence', function (string $from, ?string $to, string $says): void {
    expect(fn () => plan($this, $from, $to))->toThrow(PlanRefused::class, $says);
})->with([
    'itself' => ['people/maren-oake.jpg', 'people/maren-oake.jpg', 'swapped for itself'],
    'nothing chosen' => ['people/maren-oake.jpg', null, 'upload a picture'],
    'used nowhere' => ['archive/unsorted-14.jpg', 'people/maren-oake.jpg', 'nothing to change'],
]);

it('applies a plan once only', function (): void {
    Queue::fake();
    $plan = plan($this, 'people/maren-oake.jpg', 'people/lise-holm.jpg');
    app(Journal::class)->apply($plan, null, '');
    expect(fn () => app(Journal::class)->apply($plan, null, ''))->toThrow(PlanRefused::class, 'applied already')->and(Change::query()->count())->toBe(1);
    $this->touched();
});

it('does all of it over the API', function (): void {
    $this->as(Role::Maintainer);
    $plan = $this->postJson('/api/sites/korrin-bay/plans', ['from' => $this->item('people/maren-oake.jpg')->id, 'to' => $this->item('people/lise-holm.jpg')->id, 'manner' => 'new-reference'])->assertCreated()->json();
    $this->touched();
    $change = $this->postJson("/api/sites/korrin-bay/plans/{$plan['id']}/apply", ['reason' => 'A new face'])->assertAccepted()->json('change');
    $this->getJson("/api/sites/korrin-bay/changes/$change")->assertOk()->assertJsonPath('state', 'applied')->assertJsonPath('by', 'Mats Ebbing')->assertJsonPath('reason', 'A new face');
    $this->postJson("/api/sites/korrin-bay/changes/$change/undo")->assertAccepted();
    $this->getJson("/api/sites/korrin-bay/changes/$change")->assertJsonPath('state', 'undone')->assertJsonPath('undone_by', 'Mats Ebbing');
    $this->postJson("/api/sites/korrin-bay/changes/$change/undo")->assertStatus(409)->assertHeader('Content-Type', 'application/problem+json')->assertJsonPath('type', '/problems/plan-refused');
});
