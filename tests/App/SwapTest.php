<?php

declare(strict_types=1);

use App\Changes\Journal;
use App\Changes\Recovery;
use App\Media\Uploads;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\MediaReference;
use App\Models\Role;
use App\Plans\PlanDesk;
use App\Plans\PlanRefused;
use Illuminate\Support\Facades\Queue;
use Ylema\Plan\StepKind;
use Ylema\Swap\Manner;
use Ylema\Swap\SwapPlanner;
use Ylema\Swap\SwapRequest;

beforeEach(function (): void {
    // Public pages are looked at in the browser tests; here nothing answers on those ports.
    $this->site()->update(['reach_at' => ['korrinbay.example' => 'http://127.0.0.1:9']]);
});

it(
    'swaps a portrait in every place it stands in, whatever the spelling, and undoes it byte for byte',
    function (): void {
        $before = $this->contentDigest();
        $files = $this->fileHashes();
        $old = $this->item('people/maren-oake.jpg');
        $uses = $old->uses;
        $plan = $this->plan('people/maren-oake.jpg', 'people/isla-ferrant.jpg');

        expect($plan->sentence)
            ->toBe("$uses references in 25 records, no file.")
            ->and($plan->counts['proposed'])
            ->toBe(25)
            ->and($this->contentDigest())
            ->toBe($before);

        $change = $this->apply($plan, 'She left');
        expect($change->state)
            ->toBe(ChangeState::Applied)
            ->and(self::contentValue("select count(*) from entries where body like '%maren-oake%'"))
            ->toBe('0')
            ->and($old->refresh()->uses)
            ->toBe(0)
            ->and($old->standing)
            ->toBe('idle')
            ->and($this->item('people/isla-ferrant.jpg')->uses)
            ->toBe($uses + 1)
            // A reference to the former address is mended on the way.
            ->and(self::contentValue('select body from entries where id = 103'))
            ->toContain('src="https://korrinbay.example/media/people/isla-ferrant.w160.jpg"');

        $change = $this->undo($change);
        expect($change->state)
            ->toBe(ChangeState::Undone)
            ->and($this->contentDigest())
            ->toBe($before)
            ->and($this->fileHashes())
            ->toBe($files)
            ->and($this->item('people/maren-oake.jpg')->uses)
            ->toBe($uses);
    },
);

it('changes nothing but the bytes of the references', function (): void {
    $body = self::contentValue('select body from entries where id = 15');
    $plan = $this->plan('brand/korrin-logo-2014.png', 'brand/korrin-logo.png');
    app(Journal::class)->apply($plan, null, '');
    $this->touched();
    $after = self::contentValue('select body from entries where id = 15');
    expect($after)
        ->not->toBe($body)
        ->and(
            str_replace(
                'korrin-logo.png',
                'korrin-logo-2014.png',
                preg_replace('~korrin-logo(\.w\d+)\.png~', 'korrin-logo-2014$1.png', $after),
            ),
        )
        ->toBe($body);
});

it('swaps featured pictures, banners, galleries, json and serialized fields by id and by address', function (): void {
    $item = $this->item('birds/flock-03.jpg');
    $roles = MediaReference::query()->where('media_item_id', $item->id)->pluck('layers')->unique()->all();
    expect(count($roles))->toBeGreaterThan(1);
    $change = $this->apply($this->plan('birds/flock-03.jpg', 'birds/flock-09.jpg'));
    expect($change->state)->toBe(ChangeState::Applied)->and($item->refresh()->uses)->toBe(0);
    foreach (
        self::content()
            ->query('select extras from entries where extras is not null')
            ->fetchAll(PDO::FETCH_COLUMN) as $extras
    ) {
        expect(@unserialize($extras))->not->toBeFalse();
    }
});

it('puts new bytes behind the same address and draws each rendition again in its own size', function (): void {
    $before = $this->contentDigest();
    $files = $this->fileHashes();
    $upload = app(Uploads::class)->keep($this->jpeg(1400, 1000), 'new face.jpg', $this->site());
    $plan = $this->plan('people/tobin-vale.jpg', null, Manner::SameAddress, $upload['token']);
    $change = $this->apply($plan);
    $after = $this->fileHashes();
    $changed = array_keys(array_diff_assoc($after, $files));
    expect($change->state)
        ->toBe(ChangeState::Applied)
        ->and($this->contentDigest())
        ->toBe($before)
        ->and($changed)
        ->toHaveCount(4)
        ->and(array_keys($after))
        ->toBe(array_keys($files))
        ->and(getimagesize(self::folder().'/site/media/people/tobin-vale.w150.jpg')[0])
        ->toBe(150)
        ->and(getimagesize(self::folder().'/site/media/people/tobin-vale.w480.jpg')[1])
        ->toBe(480)
        ->and($this->item('people/tobin-vale.jpg')->files()->where('is_original', true)->value('width'))
        ->toBe(1400);
    app(Journal::class)->undo($change, null);
    expect($this->fileHashes())->toBe($files);
});

it('adds an uploaded picture as an item of its own and takes it away again on undo', function (): void {
    $before = $this->contentDigest();
    $files = $this->fileHashes();
    $upload = app(Uploads::class)->keep($this->jpeg(1200, 800), 'Light house!.jpg', $this->site());
    $change = $this->apply($this->plan('people/maren-oake.jpg', null, upload: $upload['token']));
    expect($change->state)
        ->toBe(ChangeState::Applied)
        ->and($this->item('people/light-house.jpg')->uses)
        ->toBe(25)
        ->and($this->item('people/light-house.jpg')->source_id)
        ->not->toBeNull()
        ->and(is_file(self::folder().'/site/media/people/light-house.w150.jpg'))
        ->toBeTrue();
    app(Journal::class)->undo($change, null);
    expect($this->contentDigest())->toBe($before)->and($this->fileHashes())->toBe($files);
});

it('edits only the chosen places', function (): void {
    $references = MediaReference::query()
        ->where('media_item_id', $this->item('people/maren-oake.jpg')->id)
        ->orderBy('id')
        ->limit(3)
        ->pluck('id')
        ->all();
    $change = $this->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg', only: $references));
    expect($change->state)->toBe(ChangeState::Applied)->and($this->item('people/maren-oake.jpg')->uses)->toBe(22);
});

it(
    'leaves a record alone that somebody changed between plan and apply, and plans again with their change',
    function (): void {
        $plan = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
        $this->touched();
        self::content()->exec("update entries set body = body || '<p>A word added meanwhile.</p>' where id = 103");
        $change = $this->apply($plan);
        $refused = $change->steps()->where('state', 'refused')->get();
        expect($change->state)
            ->toBe(ChangeState::AppliedInPart)
            ->and($refused)
            ->toHaveCount(1)
            ->and($refused[0]->message)
            ->toContain('changed by someone else')
            ->toContain('Plan again')
            ->and(self::contentValue('select body from entries where id = 103'))
            ->toContain('maren-oake')
            ->toEndWith('<p>A word added meanwhile.</p>');

        // That record was read again after the change, so one step is all that is left to do.
        $second = $this->apply(app(PlanDesk::class)->again($plan->refresh(), null));
        expect($second->state)
            ->toBe(ChangeState::Applied)
            ->and($second->steps()->count())
            ->toBe(1)
            ->and(self::contentValue('select body from entries where id = 103'))
            ->toContain('lise-holm')
            ->toEndWith('<p>A word added meanwhile.</p>');
    },
);

it('plans again with the item that the first change added, and adds no second one', function (): void {
    $this->touched();
    $upload = app(Uploads::class)->keep($this->jpeg(), 'mara.jpg', $this->site())['token'];
    $from = $this->item('people/maren-oake.jpg');
    $request = new SwapRequest($from->id, Manner::NewReference, null, $upload, title: 'Mara');
    $plan = app(PlanDesk::class)->make($this->site(), new SwapPlanner($request), null);
    self::content()->exec("update entries set body = body || ' meanwhile' where id = 103");
    expect($this->apply($plan)->state)->toBe(ChangeState::AppliedInPart);
    $rows = (int) self::contentValue('select count(*) from media');
    $second = $this->apply(app(PlanDesk::class)->again($plan->refresh(), null));
    expect($second->state)
        ->toBe(ChangeState::Applied)
        ->and($second->steps()->pluck('kind')->unique()->all())
        ->toEqual([StepKind::EditRecord])
        ->and((int) self::contentValue('select count(*) from media'))
        ->toBe($rows)
        ->and(self::contentValue('select body from entries where id = 103'))
        ->toContain('media/people/mara')
        ->toEndWith(' meanwhile');
});

it(
    'keeps a new item while a record that undo had to leave names it, and leads that record back by a plan',
    function (): void {
        $this->touched();
        $before = self::contentValue('select body from entries where id = 103');
        $upload = app(Uploads::class)->keep($this->jpeg(), 'mara.jpg', $this->site())['token'];
        $from = $this->item('people/maren-oake.jpg');
        $request = new SwapRequest($from->id, Manner::NewReference, null, $upload, title: 'Mara');
        $change = $this->apply(app(PlanDesk::class)->make($this->site(), new SwapPlanner($request), null));
        self::content()->exec("update entries set body = body || ' later' where id = 103");
        $change = $this->undo($change);
        $kept = $change->steps()->where('state', 'kept')->get();
        expect($change->state)
            ->toBe(ChangeState::UndoneInPart)
            ->and($kept->pluck('kind.value')->unique()->sort()->values()->all())
            ->toBe(['add-media', 'edit-record', 'write-file'])
            ->and(is_file(self::folder().'/site/media/people/mara.jpg'))
            ->toBeTrue();
        $back = $this->apply(app(PlanDesk::class)->back($change, null));
        expect($back->state)
            ->toBe(ChangeState::Applied)
            ->and($back->steps()->count())
            ->toBe(1)
            ->and(self::contentValue('select body from entries where id = 103'))
            ->toContain('media/people/maren-oake')
            ->toEndWith(' later')
            ->and(strlen($before))
            ->toBeGreaterThan(10);
        // Nothing names it any more, so undo takes the rest as well.
        $change = $this->undo($change);
        expect($change->steps()->where('state', 'kept')->get()->pluck('kind.value')->unique()->values()->all())
            ->toBe(['edit-record'])
            ->and(is_file(self::folder().'/site/media/people/mara.jpg'))
            ->toBeFalse()
            ->and(self::contentValue("select count(*) from media where path = 'media/people/mara.jpg'"))
            ->toBe('0');
    },
);

it('keeps what somebody changed after it when it is undone, and says so', function (): void {
    $change = $this->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'));
    self::content()->exec("update entries set body = body || ' later' where id = 103");
    $change = $this->undo($change);
    expect($change->state)
        ->toBe(ChangeState::UndoneInPart)
        ->and($change->steps()->where('state', 'kept')->count())
        ->toBe(1)
        ->and(self::contentValue('select body from entries where id = 103'))
        ->toContain('lise-holm')
        ->toEndWith(' later')
        ->and(self::contentValue('select body from entries where id = 109'))
        ->toContain('maren-oake');
});

it('finishes a change whose worker was killed in the middle', function (): void {
    $before = $this->contentDigest();
    $plan = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
    $this->touched();
    // Slow writes leave time to kill the worker between two of them.
    self::content()->exec(
        "create or replace function slowly() returns trigger language plpgsql as 'begin perform pg_sleep(0.08); "
            ."return new; end'",
    );
    self::content()->exec('create trigger slowly before update on entries for each row execute function slowly()');
    Queue::fake();
    $change = app(Journal::class)->apply($plan, null, '');
    $worker = proc_open(
        [PHP_BINARY, base_path('artisan'), 'ylema:recover'],
        [1 => ['file', '/dev/null', 'w'], 2 => ['file', '/dev/null', 'w']],
        $pipes,
        null,
        [...getenv(), 'QUEUE_CONNECTION' => 'database'],
    );
    // It is in the middle of a statement when a row waits in the trigger.
    $busy = fn (): bool => self::contentValue(
        "select count(*) from pg_stat_activity where datname = current_database() and wait_event = 'PgSleep'",
    ) !== '0';
    while (! $busy() && proc_get_status($worker)['running']) {
        usleep(20_000);
    }
    expect($busy())->toBeTrue();
    proc_terminate($worker, SIGKILL);
    proc_close($worker);
    expect($change->refresh()->state)
        ->toBe(ChangeState::Applying)
        ->and($change->steps()->where('state', 'done')->count())
        ->toBe(0);
    // What its database was doing for it ends with its connection.
    for ($i = 0; $i < 3000 && $busy(); $i++) {
        usleep(20_000);
    }
    self::content()->exec('drop trigger slowly on entries');
    expect($this->contentDigest())
        ->toBe($before)
        ->and(app(Recovery::class)->run())
        ->toBe(1)
        ->and($change->refresh()->state)
        ->toBe(ChangeState::Applied)
        ->and($change->steps()->where('state', 'done')->count())
        ->toBe(25)
        ->and(self::contentValue("select count(*) from entries where body like '%maren-oake%'"))
        ->toBe('0');
    app(Journal::class)->undo($change, null);
    app(Journal::class)->work($change);
    expect($change->refresh()->state)->toBe(ChangeState::Undone)->and($this->contentDigest())->toBe($before);
});

it('knows a write that was made but not yet noted when the process died', function (): void {
    $plan = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
    $this->touched();
    Queue::fake();
    $change = app(Journal::class)->apply($plan, null, '');
    app(Journal::class)->work($change);
    // As if the last note had been lost with the process.
    $change->refresh();
    $change
        ->steps()
        ->where('record_key', '103')
        ->update(['state' => 'pending']);
    $change->update(['state' => ChangeState::Applying]);
    app(Recovery::class)->run();
    expect($change->refresh()->state)
        ->toBe(ChangeState::Applied)
        ->and($change->steps()->where('state', 'done')->count())
        ->toBe(25);
});

it('refuses a plan that makes no sense with a sentence', function (string $from, ?string $to, string $says): void {
    expect(fn () => $this->plan($from, $to))->toThrow(PlanRefused::class, $says);
})->with([
    'itself' => ['people/maren-oake.jpg', 'people/maren-oake.jpg', 'swapped for itself'],
    'nothing chosen' => ['people/maren-oake.jpg', null, 'upload a file'],
    'used nowhere' => ['archive/unsorted-14.jpg', 'people/maren-oake.jpg', 'nothing to change'],
]);

it('applies a plan once only', function (): void {
    Queue::fake();
    $plan = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
    app(Journal::class)->apply($plan, null, '');
    expect(fn () => app(Journal::class)->apply($plan, null, ''))
        ->toThrow(PlanRefused::class, 'applied already')
        ->and(Change::query()->count())
        ->toBe(1);
    $this->touched();
});

it('does all of it over the API', function (): void {
    $this->as(Role::Maintainer);
    $plan = $this->postJson('/api/sites/korrin-bay/plans', [
        'from' => $this->item('people/maren-oake.jpg')->id,
        'to' => $this->item('people/lise-holm.jpg')->id,
        'manner' => 'new-reference',
    ])
        ->assertCreated()
        ->json();
    $this->touched();
    $change = $this->postJson("/api/sites/korrin-bay/plans/{$plan['id']}/apply", ['reason' => 'A new face'])
        ->assertAccepted()
        ->json('change');
    $this->getJson("/api/sites/korrin-bay/changes/$change")
        ->assertOk()
        ->assertJsonPath('state', 'applied')
        ->assertJsonPath('by', 'Mats Ebbing')
        ->assertJsonPath('reason', 'A new face');
    $this->postJson("/api/sites/korrin-bay/changes/$change/undo")->assertAccepted();
    $this->getJson("/api/sites/korrin-bay/changes/$change")
        ->assertJsonPath('state', 'undone')
        ->assertJsonPath('undone_by', 'Mats Ebbing');
    $this->postJson("/api/sites/korrin-bay/changes/$change/undo")
        ->assertStatus(409)
        ->assertHeader('Content-Type', 'application/problem+json')
        ->assertJsonPath('type', '/problems/plan-refused');
});
