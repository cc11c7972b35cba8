<?php

declare(strict_types=1);

namespace Tests\App\Kill;

use App\Bytes\Marks;
use App\Bytes\Part;
use App\Bytes\Place;
use App\Changes\Journal;
use App\Changes\Recovery;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\Site;
use App\Plans\PlanDesk;
use App\Reading\ReadSite;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Illuminate\Support\Testing\Fakes\QueueFake;
use RuntimeException;
use Tests\App\BagReader;
use Tests\App\Sources\Source;
use Ylema\Adopt\AdoptPlanner;
use Ylema\Adopt\AdoptRequest;
use Ylema\Plan\Planner;
use Ylema\Plan\RestingQuestion;
use Ylema\Retire\MergePlanner;
use Ylema\Retire\MergeRequest;
use Ylema\Retire\RestorePlanner;
use Ylema\Retire\RestoreRequest;

/**
 * Kills workers before a drawn one of all the calls that change something, while they apply and undo plans: one with
 * every kind of step, a merge, pictures brought home, and what rests or lies in a bag brought back. What is there after
 * recovery is held against what was there before: every record and file wholly the one or the other, as the journal
 * says.
 */
final class Killing
{
    private const PAGES = 60;

    private Source $source;

    private Site $site;

    private string $folder;

    /** @var list<string> of pages that the plan with every kind of step edits */
    private array $keys = [];

    /** @var array<string, int> act and direction → calls that change something */
    private array $calls = [];

    /** @var array<string, int> where the killed worker was: state → times */
    public array $caught = [];

    public int $kills = 0;

    /** @var list<string> before which call of which act workers were killed */
    private array $killed = [];

    public function __construct(private readonly string $kind, int $seed)
    {
        mt_srand($seed);
        $this->folder = (getenv('YLEMA_VAR') ?: sys_get_temp_dir())."/kill-$kind";
        shell_exec('rm -rf '.escapeshellarg($this->folder));
        mkdir("$this->folder/media", 0o777, true);
        foreach (['a' => 0o640, 'b' => 0o644, 'rests' => 0o600, 'moves' => 0o664] as $name => $mode) {
            $this->put("media/$name.jpg", str_repeat($name, 5000), $mode, 1_400_000_000 + $mode);
        }
        foreach (['one', 'two', 'three'] as $n => $twin) {
            $this->put("media/twin-$twin.jpg", str_repeat('twin', 4000), 0o640 + $n, 1_350_000_000 + $n);
        }
        mkdir("$this->folder/media/idle", 0o777, true);
        for ($n = 1; $n <= AllKindsPlanner::IDLE; $n++) {
            $this->put("media/idle/$n.jpg", str_repeat("idle $n", 3000), 0o600 + $n, 1_300_000_000 + $n);
        }
        $this->source = new Source($kind);
        for ($i = 0; $i < self::PAGES; $i++) {
            $this->keys[] = $this->source->add(
                "<p>Ünder $i</p><img src=\"/media/a.jpg\" alt='🦆'>".str_repeat('<p>tide</p>', $i),
            );
        }
        foreach (['one', 'two', 'three'] as $twin) {
            $this->source->pdo->exec("insert into pictures (path, title, alt, sizes) values ('media/twin-$twin.jpg', "
                ."'$twin', 'a twin', '[]')");
            for ($i = 0; $i < 4; $i++) {
                $this->source->add("<p>Ünder $i</p><img alt=x src=/media/twin-$twin.jpg><p>");
            }
        }
        $this->source->add(
            '<p>Pasted</p><img src="data:image/png;base64,'.base64_encode($this->picture()).'" alt="a speck">',
        );
        Site::query()
            ->where('slug', "kill-$kind")
            ->delete();
        $this->site = Site::query()->create([
            'slug' => "kill-$kind",
            'name' => 'Kill',
            'address' => 'https://kill.example/',
            'former' => [],
            'reach_at' => [],
            'field_map' => $this->source->map(),
            'connection' => ['dsn' => $this->source->dsn(), ...$this->source->credentials(), 'folder' => $this->folder],
        ]);
        // What a run that was cut short left there.
        foreach ([storage_path("app/rest/{$this->site->id}"), storage_path("app/bags/kill-$kind-1")] as $left) {
            shell_exec('rm -rf '.escapeshellarg($left));
        }
        foreach (['vault', 'rest', 'bags'] as $place) {
            app(Marks::class)->take(Place::of($place));
        }
        // The one before may have left its own, in which nothing is ever done.
        $queue = Queue::getFacadeRoot();
        Queue::swap($queue instanceof QueueFake ? $queue->queue : $queue);
        app(ReadSite::class)->begin($this->site, null);
        // Once without a kill, so that it is known how many calls there are to kill before.
        $this->round(false);
    }

    /** All acts applied and undone, with a worker killed on each way: ten kills, or more where recovery dies, too. */
    public function once(): void
    {
        $this->round(true);
    }

    private function round(bool $kills): void
    {
        Queue::fake();
        $done = [];
        $acts = [
            'merge' => fn (): Planner => new MergePlanner(new MergeRequest($this->number('one'), [
                $this->number('two'),
                $this->number('three'),
            ])),
            'adoption' => static fn (): Planner => new AdoptPlanner(new AdoptRequest([], true)),
            'all kinds' => fn (): Planner => new AllKindsPlanner($this->keys, "kill-$this->kind-1"),
            'restores from rest' => fn (): Planner => new RestorePlanner(new RestoreRequest(new RestingQuestion(
                $this->some('resting_files', "path like 'media/idle/%'"),
            ))),
            'restores from a bag' => fn (): Planner => new RestorePlanner(new RestoreRequest(new RestingQuestion(
                bagged: $this->some('bag_files', 'true'),
            ))),
        ];
        foreach ($acts as $act => $planner) {
            $before = $this->state();
            $change = app(Journal::class)->apply(
                app(PlanDesk::class)->make($this->site, $planner(), null),
                null,
                '',
            );
            $this->work($change, "$act applied", $kills);
            $this->hold(
                $change->refresh()->state === ChangeState::Applied,
                "$act is {$change->state->value} after recovery: "
                    .$change->steps()->whereIn('state', ['refused', 'kept'])->value('message'),
            );
            $this->look($act, $before, $this->state());
            $done[] = [$act, $change, $before];
        }
        $beside = 0;
        foreach (array_reverse($done) as [$act, $change, $before]) {
            app(Journal::class)->undo($change->refresh(), null);
            $this->work($change, "$act undone", $kills);
            $this->hold(
                $change->refresh()->state === ChangeState::Undone,
                "$act is {$change->state->value} after undo: "
                    .$change->steps()->where('state', 'kept')->value('message'),
            );
            $now = $this->state();
            // What came from a bag rests after undo: the bag is sealed and stays what it is, until it is undone itself.
            $beside = ['restores from a bag' => 3, 'all kinds' => 0][$act] ?? $beside;
            $now['resting'] -= $beside;
            $this->eachOnce("$act undone");
            $this->hold($now === $before, "$act is not as it was: ".json_encode(
                [
                    array_diff_assoc($now['pages'], $before['pages']),
                    array_diff_assoc($now['files'], $before['files']),
                    array_diff_key($before['files'], $now['files']),
                    array_diff_assoc(array_map(json_encode(...), $now), array_map(json_encode(...), $before)),
                ],
                JSON_INVALID_UTF8_SUBSTITUTE,
            ));
        }
        foreach ($done as [, $change]) {
            DB::table('changes')->where('id', $change->id)->delete();
        }
        $this->hold($this->left() === [], 'left parts behind: '.implode(', ', $this->left()));
    }

    /**
     * @param  array<string, mixed>  $before as state() says it
     * @param  array<string, mixed>  $after likewise
     */
    private function look(string $act, array $before, array $after): void
    {
        $files = $after['files'];
        if ($act === 'merge') {
            $this->hold(
                ! isset($files['media/twin-two.jpg']) && ! isset($files['media/twin-three.jpg'])
                    && isset($files['media/twin-one.jpg']) && count($after['rows']) === count($before['rows']) - 2
                    && ! str_contains(implode($after['pages']), 'twin-two'),
                "merged wrongly: {$this->names($files)}",
            );
        }
        if ($act === 'adoption') {
            $this->hold(
                count($files) > count($before['files']) && count($after['rows']) === count($before['rows']) + 1
                    && ! str_contains(implode($after['pages']), 'base64'),
                "brought nothing home: {$this->names($files)}",
            );
        }
        if (str_starts_with($act, 'restores')) {
            $rested = $act === 'restores from rest' ? 3 : 0;
            $this->hold(
                count($files) === count($before['files']) + 3 && $after['resting'] === $before['resting'] - $rested,
                "brought others back: {$this->names($files)}",
            );
        }
        if ($act === 'all kinds') {
            foreach ($this->keys as $key) {
                $row = $after['pages'][$key];
                $this->hold(
                    str_contains($row, '/media/new/c.jpg') && ! str_contains($row, '/media/a.jpg'),
                    "page $key is $row",
                );
            }
            $this->hold(
                ! isset($files['media/rests.jpg'], $files['media/moves.jpg'])
                    && isset($files['media/new/moved.jpg'], $files['media/new/c.jpg'])
                    && count($after['rows']) === count($before['rows']) + 1
                    && $after['redirects'] === $before['redirects'] + 1
                    && $after['resting'] === $before['resting'] + 1 + AllKindsPlanner::IDLE - AllKindsPlanner::BAGGED
                    && $after['bagged'] === AllKindsPlanner::BAGGED,
                "is wrong in files, rows, redirects or rests: {$this->names($files)}",
            );
            $bag = storage_path("app/bags/kill-$this->kind-1");
            $this->hold(BagReader::problems($bag) === [], 'left a bag with '.implode(', ', BagReader::problems($bag)));
        }
        $this->eachOnce($act);
    }

    /** What rests by its rows, and nothing else, lies where files rest. */
    private function eachOnce(string $act): void
    {
        $said = [];
        foreach (DB::table('resting_files')->where('site_id', $this->site->id)->get(['path', 'sha256']) as $row) {
            $said[hash('sha256', "$row->path\0".trim((string) $row->sha256))] = (string) $row->path;
        }
        $lie = array_map(basename(...), glob(storage_path("app/rest/{$this->site->id}/*/*")) ?: []);
        $missing = implode(', ', array_diff_key($said, array_flip($lie)));
        $more = implode(', ', array_diff($lie, array_keys($said)));
        $this->hold(
            "$missing$more" === '',
            "$act left other files at rest than its rows say: missing $missing; more $more",
        );
    }

    private function work(Change $change, string $what, bool $kills): void
    {
        $calls = $this->calls[$what] ?? 0;
        $at = $kills ? mt_rand(1, $calls) : 0;
        $said = Worker::run('changes', $at);
        if (! $kills) {
            $this->calls[$what] = $said;
            $this->hold($said > 0, "$what changed nothing");

            return;
        }
        if ($said !== null) {
            // A folder that is there already need not be made: now and then there are fewer calls than before.
            $this->calls[$what] = $said;

            return;
        }
        $this->kills++;
        $this->killed[] = "$what $at of $calls";
        $this->wait($change);
        // Whoever takes it up may die as well.
        if (mt_rand(0, 3) === 0 && $change->refresh()->state->isRunning()) {
            $at = mt_rand(1, max(1, intdiv($calls, 3)));
            if (Worker::run('changes', $at) === null) {
                $this->kills++;
                $this->killed[] = "recovery $at";
            }
            $this->wait($change);
        }
        $count = $change->refresh()->steps()->whereIn('state', ['done', 'undone'])->count();
        $at = "{$change->state->value} $count";
        $this->caught[$at] = ($this->caught[$at] ?? 0) + 1;
        for ($i = 0; $i < 3 && $change->refresh()->state->isRunning(); $i++) {
            app(Recovery::class)->run();
        }
    }

    private function put(string $path, string $bytes, int $mode, int $modified): void
    {
        file_put_contents("$this->folder/$path", $bytes);
        chmod("$this->folder/$path", $mode);
        touch("$this->folder/$path", $modified);
    }

    /** @return string a PNG that is large enough to be worth a file of its own */
    private function picture(): string
    {
        $image = imagecreatetruecolor(40, 40);
        for ($i = 0; $i < 1600; $i++) {
            imagesetpixel($image, $i % 40, intdiv($i, 40), crc32((string) $i) & 0xFFFFFF);
        }
        ob_start();
        imagepng($image);

        return (string) ob_get_clean();
    }

    private function number(string $twin): int
    {
        return (int) DB::table('media_items')->where('site_id', $this->site->id)->where('path', "media/twin-$twin.jpg")
            ->value('id');
    }

    /** @return list<int> numbers of three rows */
    private function some(string $table, string $where): array
    {
        return array_map(intval(...), DB::table($table)->where('site_id', $this->site->id)->whereRaw($where)
            ->orderBy('id')->limit(3)->pluck('id')->all());
    }

    /** @param  array<string, string>  $files */
    private function names(array $files): string
    {
        return implode(', ', array_keys($files));
    }

    /** @return list<string> parts of killed workers that are still there after a start of Ylema */
    private function left(): array
    {
        Artisan::call('ylema:recover');
        $left = [];
        foreach ([storage_path('app'), $this->folder] as $folder) {
            $all = new \RecursiveIteratorIterator(
                new \RecursiveDirectoryIterator($folder, \FilesystemIterator::SKIP_DOTS),
            );
            foreach ($all as $file) {
                if (Part::is((string) $file)) {
                    $left[] = (string) $file;
                }
            }
        }

        return $left;
    }

    /** What the databases still did for the killed process ends with its connections. */
    private function wait(Change $change): void
    {
        for ($i = 0; $i < 6000 && ! \App\Support\WorkLock::isFree(\App\Support\WorkLock::CHANGE, $change->id); $i++) {
            usleep(10_000);
        }
    }

    /**
     * @return array{
     *     pages: array<string, string|null>,
     *     files: array<string, string>,
     *     rows: list<mixed>,
     *     redirects: int,
     *     resting: int,
     *     bagged: int,
     * }
     */
    private function state(): array
    {
        clearstatcache();
        $files = $pages = [];
        foreach (
            new \RecursiveIteratorIterator(
                new \RecursiveDirectoryIterator("$this->folder/media", \FilesystemIterator::SKIP_DOTS),
            ) as $file
        ) {
            $files[substr((string) $file, strlen($this->folder) + 1)] =
                hash_file('sha256', (string) $file)
                .' '
                .decoct($file->getPerms())
                .' '
                .$file->getMTime()
                .' '
                .$file->getOwner();
        }
        ksort($files);
        foreach (
            $this->source->pdo
                ->query('select id, body, changed_at from pages order by '.'id')
                ->fetchAll(\PDO::FETCH_NUM) as [$id, $body, $changed]
        ) {
            $pages[(string) $id] = "$body|$changed";
        }

        return [
            'pages' => $pages,
            'files' => $files,
            'rows' => $this->source->pdo->query('select * from pictures order by id')->fetchAll(\PDO::FETCH_ASSOC),
            'redirects' => DB::table('redirects')->where('site_id', $this->site->id)->count(),
            'resting' => DB::table('resting_files')->where('site_id', $this->site->id)->count(),
            'bagged' => DB::table('bag_files')->where('site_id', $this->site->id)->count(),
        ];
    }

    private function hold(bool $true, string $what): void
    {
        if (! $true) {
            $killed = implode(', ', array_slice($this->killed, -20));
            throw new RuntimeException("$this->kind: the change $what. Killed before: $killed");
        }
    }
}
