<?php

declare(strict_types=1);

use App\Bytes\Marks;
use App\Bytes\Place;
use App\Changes\Journal;
use App\Models\Change;
use App\Models\MediaItem;
use App\Plans\PlanDesk;
use App\Plans\PlanRefused;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Ylema\Plan\IdleQuestion;
use Ylema\Plan\Planner;
use Ylema\Plan\RestingQuestion;
use Ylema\Retire\ArchivePlanner;
use Ylema\Retire\MergePlanner;
use Ylema\Retire\MergeRequest;
use Ylema\Retire\RestorePlanner;
use Ylema\Retire\RestoreRequest;
use Ylema\Retire\RestPlanner;
use Ylema\Retire\RestRequest;

/** Holds every file that was there in the beginning against where it is now. */
function eachOnce(object $test, array $first): void
{
    clearstatcache();
    $root = (string) config('demo.folder');
    $resting = DB::table('resting_files')
        ->get()
        ->mapWithKeys(static fn (stdClass $r): array => ["$r->path ".trim($r->sha256) => true]);
    $bagged = DB::table('bag_files as f')
        ->join('bags as b', 'b.id', '=', 'f.bag_id')
        ->where('b.state', 'sealed')
        ->get(['f.path', 'f.sha256', 'f.payload', 'b.name'])
        ->mapWithKeys(static fn (stdClass $r): array => ["$r->path ".trim($r->sha256) => "$r->name/$r->payload"]);
    $atRest = 0;
    foreach ($first as $path => $sha) {
        $lies = is_file("$root/$path") && hash_file('sha256', "$root/$path") === $sha;
        $rests = isset($resting["$path $sha"]);
        $key = hash('sha256', "$path\0$sha");
        $file = "{$test->site()->id}/".substr($key, 0, 2)."/$key";
        $isThere = Storage::disk('rest')->exists($file);
        $bag = $bagged["$path $sha"] ?? null;
        if ($bag !== null) {
            expect(hash('sha256', (string) Storage::disk('bags')->get($bag)))->toBe($sha, $path);
        }
        // In its place, at rest, or in a bag: one of them, and a bag keeps what was restored from it.
        expect([
            $path,
            ($lies ? 1 : 0) + ($rests ? 1 : 0) + ($bag !== null && ! $lies && ! $rests ? 1 : 0),
            $isThere,
        ])->toBe([$path, 1, $rests]);
        $atRest += $rests ? 1 : 0;
    }
    expect($resting->count())->toBe($atRest);
}

it('ends with each file in its place, at rest or in a bag, whatever is done in whatever order', function (
    int $seed,
): void {
    $this->touched();
    mt_srand($seed);
    $first = array_filter(
        $this->fileHashes(),
        static fn (string $path): bool => str_starts_with($path, 'media/'),
        ARRAY_FILTER_USE_KEY,
    );
    $done = [];
    $act = function (Planner $planner) use (&$done): string {
        try {
            $done[] = app(Journal::class)->apply(
                app(PlanDesk::class)->make($this->site(), $planner, null),
                null,
                '',
            )->id;
        } catch (PlanRefused) {
            return 'nothing to do';
        }

        return $planner::kind();
    };
    $some = fn (string $table, int $count): array => DB::table($table)
        ->orderByRaw('md5(id::text || ?)', [mt_rand()])
        ->limit($count)
        ->pluck('id')
        ->all();
    $said = [];
    for ($i = 0; $i < 4; $i++) {
        $said[] = match ($i === 0 ? 0 : mt_rand(0, 6)) {
            0, 1 => $act(
                new RestPlanner(
                    new RestRequest(
                        new IdleQuestion(
                            items: MediaItem::query()
                                ->where('verdict', 'ask')
                                ->where('path', 'like', 'media/archive/%')
                                ->orderByRaw('md5(id::text || ?)', [mt_rand()])
                                ->limit(4)
                                ->pluck('id')
                                ->all(),
                        ),
                        true,
                    ),
                ),
            ),
            2 => $act(new RestorePlanner(new RestoreRequest(new RestingQuestion($some('resting_files', 2))))),
            3 => $act(new ArchivePlanner(new RestingQuestion($some('resting_files', 3)))),
            4 => $act(new RestorePlanner(new RestoreRequest(new RestingQuestion(bagged: $some('bag_files', 2))))),
            5 => $act(
                new MergePlanner(
                    new MergeRequest(
                        $this->item('boats/the-petrel-1.jpg')->id,
                        MediaItem::query()
                            ->where('path', 'media/archive/the-petrel-1-small-version.jpg')
                            ->pluck('id')
                            ->all(),
                    ),
                ),
            ),
            6 => (function () use (&$done): string {
                $id = array_pop($done);
                $change = $id === null ? null : Change::query()->find($id);
                if ($change?->state->canBeUndone() === true) {
                    app(Journal::class)->undo($change, null);
                }

                return 'undo';
            })(),
        };
        eachOnce($this, $first);
    }
    // All the way back, the last first.
    foreach (Change::query()->orderByDesc('id')->get() as $change) {
        if ($change->state->canBeUndone()) {
            app(Journal::class)->undo($change, null);
            eachOnce($this, $first);
        }
    }
    expect(array_intersect_key($this->fileHashes(), $first))->toBe($first, implode(', ', $said));
})->with([11]);

it('copies where the rest lies on another disk, and leaves the file where it cannot', function (): void {
    $this->touched();
    $elsewhere = '/dev/shm/ylema-rest-'.bin2hex(random_bytes(4));
    config(['filesystems.disks.rest.root' => $elsewhere]);
    Storage::forgetDisk('rest');
    app(Marks::class)->take(Place::of('rest'));
    $file = self::folder().'/site/media/archive/left-09.jpg';
    chmod($file, 0o640);
    $before = [hash_file('sha256', $file), fileperms($file), filemtime($file)];
    $rest = fn (): Change => app(Journal::class)->apply(
        app(PlanDesk::class)->make(
            $this->site(),
            new RestPlanner(new RestRequest(new IdleQuestion(items: [$this->item('archive/left-09.jpg')->id]), true)),
            null,
        ),
        null,
        '',
    );
    try {
        chmod($elsewhere, 0o500);
        $change = $rest()->refresh();
        expect($change->state->value)
            ->toBe('applied-in-part')
            ->and($change->steps()->where('state', 'refused')->value('message'))
            ->toContain('could not be laid to rest, and stays where it is')
            ->and(hash_file('sha256', $file))
            ->toBe($before[0]);
        expect(DB::table('resting_files')->count())->toBe(0);
        chmod($elsewhere, 0o700);
        app(Journal::class)->undo($change, null);
        $change = $rest()->refresh();
        expect($change->state->value)->toBe('applied')->and(is_file($file))->toBeFalse();
        app(Journal::class)->undo($change, null);
        clearstatcache();
        expect([hash_file('sha256', $file), fileperms($file), filemtime($file)])->toBe($before);
    } finally {
        shell_exec('chmod -R u+rwx '.escapeshellarg($elsewhere).'; rm -rf '.escapeshellarg($elsewhere));
        Storage::forgetDisk('rest');
    }
});

it('says that resting bytes are damaged, and brings none of them back', function (): void {
    $this->touched();
    $change = app(Journal::class)->apply(
        app(PlanDesk::class)->make(
            $this->site(),
            new RestPlanner(new RestRequest(new IdleQuestion(items: [$this->item('archive/left-09.jpg')->id]), true)),
            null,
        ),
        null,
        '',
    );
    $row = DB::table('resting_files')->where('path', 'media/archive/left-09.jpg')->first();
    $key = hash('sha256', "$row->path\0".trim($row->sha256));
    Storage::disk('rest')->delete("{$this->site()->id}/".substr($key, 0, 2)."/$key");
    app(Journal::class)->undo($change->refresh(), null);
    expect($change->refresh()->state->value)
        ->toBe('undone-in-part')
        ->and(is_file(self::folder().'/site/media/archive/left-09.jpg'))
        ->toBeFalse()
        ->and(is_file(self::folder().'/site/media/archive/left-09.w480.jpg'))
        ->toBeTrue();
});
