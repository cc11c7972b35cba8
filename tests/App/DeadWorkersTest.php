<?php

declare(strict_types=1);

use App\Bytes\Part;
use App\Changes\AfterChange;
use App\Changes\Journal;
use App\Media\Uploads;
use App\Models\Change;
use App\Models\Plan;
use App\Models\PlanState;
use App\Models\PlanStep;
use App\Models\Survey;
use App\Models\WorkState;
use App\Plans\MakePlan;
use App\Plans\PlanDesk;
use App\Reading\ReadSite;
use App\Support\Clock;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Illuminate\Support\Facades\Storage;
use Tests\App\Kill\Worker;
use Ylema\Imaging\UploadRefused;
use Ylema\Plan\Places;
use Ylema\Swap\Manner;
use Ylema\Swap\SwapPlanner;
use Ylema\Swap\SwapRequest;

/*
 * Workers that are killed while they plan, receive a picture, or read again what a change wrote; and clocks that are
 * set. Whoever takes it up finds nothing half done, and nothing waits for ever. Changes themselves: KillTest.
 */

/** The n-th of so many, over the whole length: the first, the last, and some between. */
function momentsOf(int $calls, int $many): array
{
    $at = array_map(static fn (int $n): int => 1 + intdiv(($calls - 1) * $n, $many - 1), range(0, $many - 1));

    return array_values(array_unique($at));
}

/** @return list<string> parts that are left in Ylema's own folders */
function partsLeft(): array
{
    $all = [];
    foreach (['vault', 'rest', 'bags', 'work'] as $disk) {
        array_push($all, ...array_filter(Storage::disk($disk)->allFiles(), Part::is(...)));
    }

    return $all;
}

/** As the scheduler does each minute, when the dead were silent long enough. */
function takeUp(): void
{
    Plan::query()->where('state', PlanState::Making)->update(['updated_at' => now()->subMinutes(2)]);
    Change::query()->update(['updated_at' => now()->subMinutes(2)]);
    Artisan::call('ylema:recover');
}

it('makes a plan whose worker was killed anew, with the same steps', function (): void {
    $this->touched();
    $upload = $this->sent($this->jpeg(1400, 1000), 'new face.jpg');
    $begin = function () use ($upload): Plan {
        Queue::fake();
        $tobin = $this->item('people/tobin-vale.jpg')->id;
        $request = new SwapRequest($tobin, Manner::SameAddress, null, $upload, new Places());

        return app(PlanDesk::class)->begin($this->site(), new SwapPlanner($request), null);
    };
    $steps = static fn (Plan $plan): array => $plan->steps()->orderBy('position')->get()
        ->map(static fn (PlanStep $step): array => [$step->kind, $step->title, $step->path])->all();
    $first = $begin();
    $calls = Worker::run("plan $first->id", 0);
    $whole = $steps($first->refresh());
    $before = [$this->contentDigest(), $this->fileHashes()];
    expect($calls)->toBeGreaterThan(10)->and($whole)->not->toBe([]);
    foreach (momentsOf($calls, 4) as $at) {
        // Kept bytes are kept once: without them each is written again.
        array_map(Storage::disk('vault')->deleteDirectory(...), Storage::disk('vault')->directories());
        $plan = $begin();
        expect(Worker::run("plan $plan->id", $at))->toBeNull()
            ->and($plan->refresh()->state)->toBe($at === $calls ? $plan->state : PlanState::Making);
        takeUp();
        Queue::assertPushed(MakePlan::class, static fn (MakePlan $job): bool => $job->planId === $plan->id);
        app(PlanDesk::class)->work($plan->refresh());
        expect([$plan->refresh()->state, $steps($plan)])->toBe([PlanState::Open, $whole])
            ->and(partsLeft())->toBe([]);
    }
    expect([$this->contentDigest(), $this->fileHashes()])->toBe($before);
});

it('has a picture that was sent whole, or not at all', function (): void {
    $this->touched();
    $file = sys_get_temp_dir().'/sent-'.bin2hex(random_bytes(4));
    file_put_contents($file, $this->jpeg(1000, 700));
    $calls = Worker::run("upload $file", 0);
    foreach (momentsOf($calls, 4) as $at) {
        Storage::disk('work')->deleteDirectory('uploads');
        expect(Worker::run("upload $file", $at))->toBeNull();
        $tokens = array_unique(array_map(
            static fn (string $path): string => pathinfo($path, PATHINFO_FILENAME),
            Storage::disk('work')->files('uploads'),
        ));
        foreach ($tokens as $token) {
            try {
                $bytes = app(Uploads::class)->open($token, $this->site()->id)['bytes'];
                expect(hash('sha256', $bytes))->toBe(hash_file('sha256', $file));
            } catch (UploadRefused $e) {
                expect($e->getMessage())->toBe('The uploaded picture is no longer here. Send it again.');
            }
        }
        takeUp();
        expect(partsLeft())->toBe([]);
        // What it left without a word of what it is goes after a day.
        $this->travel(2)->days();
        foreach (Storage::disk('work')->files('uploads') as $left) {
            touch(Storage::disk('work')->path($left), time() - 200_000);
        }
        app(Uploads::class)->clear();
        $this->travelBack();
        expect(Storage::disk('work')->files('uploads'))->toBe([]);
    }
    unlink($file);
});

it('reads again what a change wrote, whoever was killed while reading it', function (): void {
    $this->touched();
    $queue = app('queue');
    Queue::fake();
    $follow = function (): Change {
        $plan = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
        $change = app(Journal::class)->apply($plan, null, '');
        app(Journal::class)->work($change);
        $change->refresh()->update(['updated_at' => now()->subMinutes(2)]);

        return $change;
    };
    $back = function (Change $change): void {
        app(Journal::class)->undo($change->refresh(), null);
        app(Journal::class)->work($change->refresh());
        (new AfterChange($change->id))->handle(...array_map(app(...), [
            App\Changes\ReadAgain::class,
            App\Changes\Verification::class,
            Journal::class,
        ]));
    };
    $change = $follow();
    $calls = Worker::run('refresh', 0);
    expect($calls)->toBeGreaterThan(10)->and($change->refresh()->followed_up)->toBeTrue();
    $back($change);
    foreach (momentsOf($calls, 4) as $at) {
        $change = $follow();
        expect(Worker::run('refresh', $at))->toBeNull();
        for ($i = 0; $i < 3 && ! $change->refresh()->followed_up; $i++) {
            takeUp();
            $change->refresh()->update(['updated_at' => now()->subMinutes(2)]);
            Worker::run('refresh', 0);
        }
        expect($change->refresh()->followed_up)->toBeTrue("killed before call $at of $calls");
        $back($change);
    }
    // What was read again is what a whole reading finds.
    Queue::swap($queue);
    $reading = app(ReadSite::class)->begin($this->site(), null)->refresh();
    expect([$reading->state->value, $reading->totals['changed'], $reading->totals['changed_files']])
        ->toBe(['done', 0, 0]);
});

it('takes up what waits since a moment that lies ahead, for a clock was set back', function (): void {
    $this->touched();
    $ahead = now()->addHours(3);
    Queue::fake();
    $request = new SwapRequest($this->item('people/tobin-vale.jpg')->id, Manner::NewReference,
        $this->item('people/lise-holm.jpg')->id, null, new Places());
    $plan = app(PlanDesk::class)->begin($this->site(), new SwapPlanner($request), null);
    $survey = Survey::query()->create([
        'site_id' => $this->site()->id,
        'state' => WorkState::Waiting,
        'stage' => 'pages',
        'started_at' => now(),
        'worked_at' => $ahead,
    ]);
    Plan::query()->whereKey($plan->id)->update(['updated_at' => $ahead]);
    DB::table('jobs')->insert([
        'queue' => 'default', 'payload' => '{}', 'attempts' => 0, 'reserved_at' => null,
        'available_at' => $ahead->getTimestamp(), 'created_at' => time(),
    ]);
    Artisan::call('ylema:recover');
    // Once when it was asked for, and once now.
    Queue::assertPushed(MakePlan::class, 2);
    expect($survey->refresh()->worked_at->lte(now()->addSecond()))->toBeTrue()
        ->and((int) DB::table('jobs')->value('available_at'))->toBeLessThanOrEqual(time());
    // What was begun a moment ago is not taken from whoever is at it.
    $plan->touch();
    Artisan::call('ylema:recover');
    Queue::assertPushed(MakePlan::class, 2);
    expect(Clock::ago(time() + 7200))->toBe(PHP_INT_MAX)->and(Clock::ago(time() - 5))->toBeBetween(5, 6);
});

it('plans, applies and undoes while the clock is set back and forth', function (): void {
    $this->touched();
    $before = [$this->contentDigest(), $this->fileHashes()];
    $plan = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
    $this->travel(-26)->hours();
    $change = $this->apply($plan);
    $this->travel(400)->days();
    Artisan::call('ylema:recover');
    Artisan::call('ylema:clear');
    $this->travelBack();
    expect($change->refresh()->state->value)->toBe('applied')
        ->and($this->undo($change)->state->value)->toBe('undone')
        ->and([$this->contentDigest(), $this->fileHashes()])->toBe($before);
});
