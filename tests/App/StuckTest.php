<?php

declare(strict_types=1);

use App\Changes\AfterChange;
use App\Changes\Journal;
use App\Changes\ReadAgain;
use App\Changes\Recovery;
use App\Changes\WorkOnChange;
use App\Media\Uploads;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\MediaReference;
use App\Models\Plan;
use App\Models\Role;
use App\Models\StepState;
use App\Plans\PlanDesk;
use App\Plans\PlanRefused;
use App\Support\WorkLock;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Illuminate\Support\Facades\Storage;
use Ylema\Swap\Manner;

/*
 * Whatever fails, a change ends in a state from which it can be undone, and nothing waits behind it.
 */

/** A plan that brings an upload: files, a media row, and records that wait for its number. */
function withLightHouse(object $test): Plan
{
    $upload = app(Uploads::class)->keep($test->jpeg(1200, 800), 'Light house.jpg', $test->site());

    return $test->plan('people/maren-oake.jpg', null, upload: $upload['token']);
}

beforeEach(function (): void {
    $this->site()->update(['reach_at' => ['korrinbay.example' => 'http://127.0.0.1:9']]);
    // Once after the first batch of a change was noted down, something happens.
    $this->afterFirstBatch = static function (Closure $do): void {
        $done = false;
        DB::listen(static function ($query) use (&$done, $do): void {
            if (! $done && str_starts_with($query->sql, 'update plan_steps')) {
                $done = true;
                $do();
            }
        });
    };
});

it(
    'refuses the one record that the database will not take, does the others, and tries that one again',
    function (): void {
        $before = $this->contentDigest();
        self::content()->exec(
            "create or replace function no() returns trigger language plpgsql as 'begin if new.id = 103 then raise "
                ."exception ''the disk of the database is full''; end if; return new; end'",
        );
        self::content()->exec('create trigger no before update on entries for each row execute function no()');
        $change = $this->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'));
        $refused = $change->steps()->where('state', StepState::Refused)->get();
        expect($change->state)
            ->toBe(ChangeState::AppliedInPart)
            ->and($change->counts)
            ->toMatchArray(['done' => 24, 'refused' => 1])
            ->and($refused[0]->record_key)
            ->toBe('103')
            ->and($refused[0]->message)
            ->toContain('the disk of the database is full');

        self::content()->exec('drop trigger no on entries');
        $change = app(Journal::class)->retry($change)->refresh();
        expect($change->state)
            ->toBe(ChangeState::Applied)
            ->and($change->counts['done'])
            ->toBe(25)
            ->and(fn () => app(Journal::class)->retry($change))
            ->toThrow(PlanRefused::class, 'No step of this change waits')
            ->and($this->undo($change)->state)
            ->toBe(ChangeState::Undone)
            ->and($this->contentDigest())
            ->toBe($before);
    },
);

it('undoes what was applied in part', function (): void {
    $before = $this->contentDigest();
    self::content()->exec(
        "create or replace function no() returns trigger language plpgsql as 'begin if new.id = 103 then raise "
            ."exception ''no''; end if; return new; end'",
    );
    self::content()->exec('create trigger no before update on entries for each row execute function no()');
    $change = $this->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'));
    expect($this->undo($change)->state)
        ->toBe(ChangeState::Undone)
        ->and($this->contentDigest())
        ->toBe($before)
        ->and($change->steps()->where('state', StepState::Refused)->count())
        ->toBe(1);
});

it('refuses a file whose kept bytes are gone, and does the others', function (): void {
    $files = $this->fileHashes();
    $upload = app(Uploads::class)->keep($this->jpeg(1400, 1000), 'new face.jpg', $this->site());
    $plan = $this->plan('people/tobin-vale.jpg', null, Manner::SameAddress, $upload['token']);
    $step = $plan->steps()->where('path', 'media/people/tobin-vale.w480.jpg')->firstOrFail()->step();
    Storage::disk('vault')->delete(substr($step->after->sha256, 0, 2)."/{$step->after->sha256}");
    $change = $this->apply($plan);
    expect($change->state)
        ->toBe(ChangeState::AppliedInPart)
        ->and($change->counts)
        ->toMatchArray(['done' => 3, 'refused' => 1])
        ->and($change->steps()->where('state', StepState::Refused)->value('message'))
        ->toContain('restore the vault');
    $this->undo($change);
    expect($this->fileHashes())->toBe($files);
});

it('refuses a file name that no disk takes', function (): void {
    $plan = $this->plan(
        'people/maren-oake.jpg',
        null,
        upload: $this->sent($this->jpeg(1200, 800), 'x.jpg'),
    );
    $path = 'media/people/'.str_repeat('x', 300).'.jpg';
    DB::update(
        "update plan_steps set title = ?, path = ?, detail = jsonb_set(detail, '{path}', to_jsonb(?::text)) where "
            .'plan_id = ? and position = 1',
        [$path, $path, $path, $plan->id],
    );
    $change = $this->apply($plan);
    expect($change->state)
        ->toBe(ChangeState::AppliedInPart)
        ->and($change->steps()->where('state', StepState::Refused)->value('message'))
        ->toContain('its name is longer than its disk takes. Choose a shorter one.');
});

it(
    'leaves a file alone that somebody replaced between plan and apply, and one that was replaced after it',
    function (): void {
        $upload = app(Uploads::class)->keep($this->jpeg(1400, 1000), 'new face.jpg', $this->site());
        $plan = $this->plan('people/tobin-vale.jpg', null, Manner::SameAddress, $upload['token']);
        $file = self::folder().'/site/media/people/tobin-vale.w150.jpg';
        unlink($file);
        file_put_contents($file, 'of somebody else');
        $change = $this->apply($plan);
        expect($change->state)
            ->toBe(ChangeState::AppliedInPart)
            ->and(file_get_contents($file))
            ->toBe('of somebody else');
        $other = self::folder().'/site/media/people/tobin-vale.w480.jpg';
        unlink($other);
        file_put_contents($other, 'later');
        expect($this->undo($change)->state)
            ->toBe(ChangeState::UndoneInPart)
            ->and(file_get_contents($other))
            ->toBe('later')
            ->and(file_get_contents($file))
            ->toBe('of somebody else');
    },
);

it('gives a file back its time and mode', function (): void {
    $file = self::folder().'/site/media/people/tobin-vale.jpg';
    // The file is a hard link to the drawn one, which must stay as it is.
    $bytes = (string) file_get_contents($file);
    unlink($file);
    file_put_contents($file, $bytes);
    chmod($file, 0o640);
    touch($file, 1_500_000_000);
    $upload = app(Uploads::class)->keep($this->jpeg(1400, 1000), 'new face.jpg', $this->site());
    $change = $this->apply($this->plan('people/tobin-vale.jpg', null, Manner::SameAddress, $upload['token']));
    clearstatcache();
    expect(fileperms($file) & 0o777)
        ->toBe(0o640)
        ->and(filemtime($file))
        ->toBeGreaterThan(1_600_000_000);
    $this->undo($change);
    clearstatcache();
    expect(fileperms($file) & 0o777)
        ->toBe(0o640)
        ->and(filemtime($file))
        ->toBe(1_500_000_000)
        ->and(file_get_contents($file))
        ->toBe($bytes);
});

it('gives the new row its number when it is made, and undo takes only that row', function (): void {
    $upload = app(Uploads::class)->keep($this->jpeg(1200, 800), 'Light house.jpg', $this->site());
    $plan = $this->plan('birds/flock-03.jpg', null, upload: $upload['token'], title: 'The light', alt: 'A light');
    // An editor adds a picture meanwhile, which gets the number that would have been next.
    self::content()->exec("insert into media (path, title) values ('media/by-an-editor.jpg', 'Mine')");
    $mine = self::contentValue("select id from media where path = 'media/by-an-editor.jpg'");
    $change = $this->apply($plan);
    $id = self::contentValue("select id from media where path = 'media/birds/light-house.jpg'");
    expect($change->state)
        ->toBe(ChangeState::Applied)
        ->and($id)
        ->not->toBe($mine)
        ->and(self::contentValue('select alt from media where id = ?', $id))
        ->toBe('A light')
        ->and(self::contentValue('select count(*) from galleries where items like ?', "%\"picture\":$id,%"))
        ->toBe('1');
    foreach (
        self::content()
            ->query('select extras from entries where extras is not null')
            ->fetchAll(PDO::FETCH_COLUMN) as $extras
    ) {
        expect(@unserialize($extras))->not->toBeFalse();
    }
    expect($this->undo($change)->state)
        ->toBe(ChangeState::Undone)
        ->and(self::contentValue("select count(*) from media where path = 'media/birds/light-house.jpg'"))
        ->toBe('0')
        ->and(self::contentValue('select title from media where id = ?', $mine))
        ->toBe('Mine');
});

it('keeps the new row and its files when somebody has edited the row since', function (): void {
    $upload = app(Uploads::class)->keep($this->jpeg(1200, 800), 'Light house.jpg', $this->site());
    $change = $this->apply($this->plan('people/maren-oake.jpg', null, upload: $upload['token']));
    self::content()->exec("update media set caption = 'By the pier' where path = 'media/people/light-house.jpg'");
    expect($this->undo($change)->state)
        ->toBe(ChangeState::UndoneInPart)
        ->and(self::contentValue("select caption from media where path = 'media/people/light-house.jpg'"))
        ->toBe('By the pier')
        ->and(is_file(self::folder().'/site/media/people/light-house.jpg'))
        ->toBeTrue()
        ->and(is_file(self::folder().'/site/media/people/light-house.w150.jpg'))
        ->toBeTrue();
});

it('stops between two steps, and goes on', function (): void {
    Queue::fake();
    $plan = withLightHouse($this);
    $this->touched();
    $change = app(Journal::class)->apply($plan, null, '');
    ($this->afterFirstBatch)(static fn () => app(Journal::class)->stop($change));
    app(Journal::class)->work($change);
    expect($change->refresh()->state)
        ->toBe(ChangeState::Stopped)
        ->and($change->counts['done'])
        ->toBe(4)
        ->and($change->counts['pending'])
        ->toBe(26)
        ->and(self::contentValue("select count(*) from media where path = 'media/people/light-house.jpg'"))
        ->toBe('0');
    app(Journal::class)->goOn($change);
    app(Journal::class)->work($change);
    expect($change->refresh()->state)->toBe(ChangeState::Applied)->and($change->counts['done'])->toBe(30);
    Queue::assertPushed(WorkOnChange::class, 2);
});

it('stops between two steps, and rolls back', function (): void {
    Queue::fake();
    [$before, $files] = [$this->contentDigest(), $this->fileHashes()];
    $plan = withLightHouse($this);
    $this->touched();
    $change = app(Journal::class)->apply($plan, null, '');
    ($this->afterFirstBatch)(static fn () => app(Journal::class)->stop($change));
    app(Journal::class)->work($change);
    app(Journal::class)->undo($change, null);
    app(Journal::class)->work($change);
    expect($change->refresh()->state)
        ->toBe(ChangeState::Undone)
        ->and($this->contentDigest())
        ->toBe($before)
        ->and($this->fileHashes())
        ->toBe($files)
        ->and($change->steps()->where('state', StepState::LeftOut)->value('message'))
        ->toContain('stopped before')
        ->and(fn () => app(Journal::class)->stop($change))
        ->toThrow(PlanRefused::class, 'not being worked on');
});

it('stops writing when it has lost its lock with its connection', function (): void {
    Queue::fake();
    $plan = withLightHouse($this);
    $this->touched();
    $change = app(Journal::class)->apply($plan, null, '');
    ($this->afterFirstBatch)(static fn () => DB::select('select pg_advisory_unlock_all()'));
    app(Journal::class)->work($change);
    expect($change->refresh()->state)
        ->toBe(ChangeState::Applying)
        ->and($change->steps()->where('state', 'done')->count())
        ->toBe(4)
        ->and(self::contentValue("select count(*) from media where path = 'media/people/light-house.jpg'"))
        ->toBe('0');
    expect(app(Recovery::class)->run())->toBe(1)->and($change->refresh()->state)->toBe(ChangeState::Applied);
});

it('leaves a change to the worker that has it already', function (): void {
    Queue::fake();
    $this->touched();
    $change = app(Journal::class)->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'), null, '');
    $server = config('database.connections.pgsql');
    $other = new PDO(
        "pgsql:host={$server['host']};port={$server['port']};dbname={$server['database']}",
        $server['username'],
        $server['password'],
    );
    $other->query('select pg_advisory_lock('.WorkLock::CHANGE.", $change->id)");
    expect(WorkLock::take(WorkLock::CHANGE, $change->id))
        ->toBeNull()
        ->and(WorkLock::isFree(WorkLock::CHANGE, $change->id))
        ->toBeFalse();
    app(Journal::class)->work($change);
    expect($change->refresh()->state)
        ->toBe(ChangeState::Applying)
        ->and($change->steps()->where('state', 'pending')->count())
        ->toBe(25);
    $other = null;
    for ($i = 0; $i < 3000 && ! WorkLock::isFree(WorkLock::CHANGE, $change->id); $i++) {
        usleep(20_000);
    }
    app(Journal::class)->work($change);
    expect($change->refresh()->state)->toBe(ChangeState::Applied);
});

it('finishes each change that was left in the middle, whatever becomes of another', function (): void {
    Queue::fake();
    $this->touched();
    $first = app(Journal::class)->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'), null, '');
    $second = app(Journal::class)->apply($this->plan('boats/the-petrel-1.jpg', 'boats/kittiwake-ii-2.jpg'), null, '');
    // Nothing of the first can be read any more.
    DB::update("update plan_steps set detail = '{}', kind = 'nonsense' where plan_id = ?", [$first->plan_id]);
    app(Recovery::class)->run();
    expect($first->refresh()->state)
        ->toBe(ChangeState::Applying)
        ->and($second->refresh()->state)
        ->toBe(ChangeState::Applied);
});

it('ends a change whose site is away, and does it when the site is back', function (): void {
    $this->touched();
    $plan = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
    $site = $this->site();
    $connection = $site->connection;
    $site->update(['connection' => [...$connection, 'dsn' => 'pgsql:host=127.0.0.1;port=9;dbname=gone']]);
    $change = $this->apply($plan);
    expect($change->state)
        ->toBe(ChangeState::AppliedInPart)
        ->and($change->counts)
        ->toMatchArray(['refused' => 25])
        ->and($change->steps()->value('message'))
        ->toContain('does not answer');
    $site->update(['connection' => $connection]);
    expect(app(Journal::class)->retry($change)->refresh()->state)
        ->toBe(ChangeState::Applied)
        ->and($this->undo($change)->state)
        ->toBe(ChangeState::Undone);
});

it('takes up what follows a change, where the process died before it handed it on', function (): void {
    Queue::fake();
    $this->touched();
    $change = app(Journal::class)->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'), null, '');
    app(Journal::class)->work($change);
    Queue::fake();
    app(Recovery::class)->run();
    Queue::assertNotPushed(AfterChange::class);
    Change::query()->update(['updated_at' => now()->subMinute()]);
    app(Recovery::class)->run();
    Queue::assertPushed(AfterChange::class, 1);
    app(AfterChange::class, ['changeId' => $change->id])->handle(
        app(ReadAgain::class),
        app(App\Changes\Verification::class),
        app(Journal::class),
    );
    expect($change->refresh()->followed_up)
        ->toBeTrue()
        ->and($change->verification)
        ->not->toBeNull()
        ->and($this->item('people/maren-oake.jpg')->uses)
        ->toBe(0);
});

it('makes a plan anew that a dead worker had left, and never two at once', function (): void {
    Queue::fake();
    $plan = app(PlanDesk::class)->begin(
        $this->site(),
        new Ylema\Swap\SwapPlanner(
            new Ylema\Swap\SwapRequest(
                $this->item('people/maren-oake.jpg')->id,
                Manner::NewReference,
                $this->item('people/lise-holm.jpg')->id,
            ),
        ),
        null,
    );
    expect($plan->state)
        ->toBe(App\Models\PlanState::Making)
        ->and(app(PlanDesk::class)->recover())
        ->toBe(0)
        ->and(fn () => app(Journal::class)->apply($plan, null, ''))
        ->toThrow(PlanRefused::class, 'still being made');
    DB::table('plans')->update(['updated_at' => now()->subMinute()]);
    expect(app(PlanDesk::class)->recover())->toBe(1);
    app(PlanDesk::class)->work($plan);
    expect($plan->refresh()->state)
        ->toBe(App\Models\PlanState::Open)
        ->and($plan->steps()->count())
        ->toBe(25);
    $this->touched();
});

it('plans again for the same places and with the same words', function (): void {
    $references = MediaReference::query()
        ->where('media_item_id', $this->item('people/maren-oake.jpg')->id)
        ->orderBy('id')
        ->get();
    $chosen = [$references[1], $references[4]];
    $upload = app(Uploads::class)->keep($this->jpeg(1200, 800), 'Light house.jpg', $this->site());
    $plan = $this->plan(
        'people/maren-oake.jpg',
        null,
        upload: $upload['token'],
        only: array_column($chosen, 'id'),
        title: 'The light',
        alt: 'A light',
    );
    $this->touched();
    // Read again, every reference has another number.
    DB::table('records')->update(['hash' => 'x']);
    app(App\Reading\ReadSite::class)->begin($this->site(), null);
    expect(MediaReference::query()->whereKey($chosen[0]->id)->exists())->toBeFalse();
    $again = app(PlanDesk::class)->again($plan, null);
    $of = fn (App\Models\Plan $p): array => $p
        ->steps()
        ->where('kind', 'edit-record')
        ->orderBy('position')
        ->get()
        ->map(
            fn ($s): array => [
                $s->record_kind,
                $s->record_key,
                $s->step()->promises === []
                    ? array_map(fn ($f) => array_column($f->edits->edits, 'start'), $s->step()->fields)
                    : $s->step()->promises,
            ],
        )
        ->all();
    expect($of($again))
        ->toEqual($of($plan))
        ->and($of($again))
        ->toHaveCount(2)
        ->and($plan->refresh()->state)
        ->toBe(App\Models\PlanState::Dropped)
        ->and($again->steps()->where('kind', 'add-media')->firstOrFail()->step()->media->alt)
        ->toBe('A light')
        ->and($again->steps()->where('kind', 'add-media')->firstOrFail()->step()->media->title)
        ->toBe('The light');
});

it('takes no places that make no sense for all places', function (array $body): void {
    $this->as(Role::Maintainer)
        ->postJson('/api/sites/korrin-bay/plans', [
            'from' => $this->item('people/maren-oake.jpg')->id,
            'to' => $this->item('people/lise-holm.jpg')->id,
            'manner' => 'new-reference',
            ...$body,
        ])
        ->assertStatus(in_array(999_999_999, (array) ($body['places'] ?? ($body['except'] ?? [])), true) ? 409 : 422);
})->with([
    'a word' => [['places' => 'all']],
    'words' => [['places' => ['x']]],
    'keys' => [['places' => ['a' => 1]]],
    'both' => [['places' => [1], 'except' => [2]]],
    'none of the item' => [['places' => [999_999_999]]],
    'none of the item, left out' => [['except' => [999_999_999]]],
    'lists in lists' => [['places' => [[1]]]],
]);

it('leaves out the places that a person left out, and no others', function (): void {
    $references = MediaReference::query()
        ->where('media_item_id', $this->item('people/maren-oake.jpg')->id)
        ->with('record')
        ->orderBy('id')
        ->get();
    $left = [$references[2]->id, $references[7]->id];
    $plan = $this->as(Role::Maintainer)
        ->postJson('/api/sites/korrin-bay/plans', [
            'from' => $this->item('people/maren-oake.jpg')->id,
            'to' => $this->item('people/lise-holm.jpg')->id,
            'manner' => 'new-reference',
            'except' => $left,
        ])
        ->assertCreated()
        ->json('id');
    $planned = Plan::query()
        ->findOrFail($plan)
        ->steps()
        ->get()
        ->map(fn ($s): string => "$s->record_kind $s->record_key")
        ->sort()
        ->values()
        ->all();
    $wanted = $references
        ->reject(fn ($r): bool => in_array($r->id, $left, true))
        ->map(fn ($r): string => "{$r->record->kind} {$r->record->key}")
        ->sort()
        ->values()
        ->all();
    expect($planned)->toBe($wanted);
});

it('reads what undo had to leave before a plan leads it back, however busy the workers are', function (): void {
    $this->as(Role::Maintainer);
    $change = $this->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'));
    self::content()->exec("update entries set body = body || ' later' where id = 103");
    // Its follow-up waits for a worker.
    Queue::fake();
    app(Journal::class)->undo($change, null);
    app(Journal::class)->work($change->refresh());
    expect($change->refresh()->followed_up)->toBeFalse();
    $id = $this->postJson("/api/sites/korrin-bay/changes/{$change->id}/back")->assertSuccessful()->json('id');
    $plan = Plan::query()->findOrFail($id);
    app(PlanDesk::class)->work($plan);
    expect($plan->refresh()->counts['proposed'])
        ->toBe(1)
        ->and($plan->steps()->where('state', 'left-out')->count())
        ->toBe(0);
    $back = app(Journal::class)->apply($plan, null, '');
    app(Journal::class)->work($back);
    expect(self::contentValue('select body from entries where id = 103'))->toContain('media/people/maren-oake');
});
