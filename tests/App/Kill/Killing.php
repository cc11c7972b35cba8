<?php

declare(strict_types=1);

namespace Tests\App\Kill;

use App\Changes\Journal;
use App\Changes\Recovery;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\Site;
use App\Plans\PlanDesk;
use App\Reading\ReadSite;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use RuntimeException;
use Tests\App\BagReader;
use Tests\App\Sources\Source;

/**
 * Kills workers at random moments of applying and undoing a plan with every kind of step, and holds what is there after
 * recovery against what was there before: every record and file wholly the one or the other, as the journal says.
 */
final class Killing
{
    private const PAGES = 60;

    private Source $source;

    private Site $site;

    private string $folder;

    /** @var list<string> */
    private array $keys = [];

    /** @var array<string, int> where the killed worker was: state → times */
    public array $caught = [];

    public function __construct(private readonly string $kind, int $seed)
    {
        mt_srand($seed);
        $this->folder = (getenv('YLEMA_VAR') ?: sys_get_temp_dir())."/kill-$kind";
        shell_exec('rm -rf '.escapeshellarg($this->folder));
        mkdir("$this->folder/media", 0o777, true);
        foreach (['a' => 0o640, 'b' => 0o644, 'rests' => 0o600, 'moves' => 0o664] as $name => $mode) {
            $file = "$this->folder/media/$name.jpg";
            file_put_contents($file, str_repeat($name, 5000));
            chmod($file, $mode);
            touch($file, 1_400_000_000 + $mode);
        }
        mkdir("$this->folder/media/idle", 0o777, true);
        for ($n = 1; $n <= AllKindsPlanner::IDLE; $n++) {
            $file = "$this->folder/media/idle/$n.jpg";
            file_put_contents($file, str_repeat("idle $n", 3000));
            chmod($file, 0o600 + $n);
            touch($file, 1_300_000_000 + $n);
        }
        $this->source = new Source($kind);
        for ($i = 0; $i < self::PAGES; $i++) {
            $this->keys[] = $this->source->add(
                "<p>Ünder $i</p><img src=\"/media/a.jpg\" alt='🦆'>".str_repeat('<p>tide</p>', $i),
            );
        }
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
        app(ReadSite::class)->begin($this->site, null);
    }

    /** One change applied and undone, with a worker killed on either way. */
    public function once(): void
    {
        Queue::fake();
        $before = $this->state();
        $plan = app(PlanDesk::class)->make($this->site, new AllKindsPlanner($this->keys, "kill-$this->kind-1"), null);
        $change = app(Journal::class)->apply($plan, null, '');
        $this->kill($change);
        $this->hold(
            $change->refresh()->state === ChangeState::Applied,
            "is {$change->state->value} after recovery: "
                .$change
                    ->steps()
                    ->whereIn('state', ['refused', 'kept'])
                    ->value('message'),
        );
        $after = $this->state();
        foreach ($after['pages'] as $key => $row) {
            $this->hold(
                str_contains((string) $row, '/media/new/c.jpg') && ! str_contains((string) $row, '/media/a.jpg'),
                "page $key is $row",
            );
        }
        $this->hold(
            ! isset($after['files']['media/rests.jpg'], $after['files']['media/moves.jpg'])
                && isset($after['files']['media/new/moved.jpg'], $after['files']['media/new/c.jpg']),
            'files are '.implode(', ', array_keys($after['files'])),
        );
        $this->hold(
            count($after['rows']) === count($before['rows']) + 1
                && $after['redirects'] === 1
                && $after['resting'] === 1 + AllKindsPlanner::IDLE - AllKindsPlanner::BAGGED
                && $after['bagged'] === AllKindsPlanner::BAGGED,
            'rows, redirects or rests are wrong',
        );
        // Each in one place, and the bag whole.
        $bag = storage_path("app/bags/kill-$this->kind-1");
        $this->hold(BagReader::problems($bag) === [], 'left a bag with '.implode(', ', BagReader::problems($bag)));
        $this->hold(
            count(array_filter(glob(storage_path("app/rest/{$this->site->id}/*/*")) ?: [], is_file(...))) ===
                $after['resting'],
            'left other files at rest than its rows say',
        );
        app(Journal::class)->undo($change, null);
        $this->kill($change);
        $this->hold(
            $change->refresh()->state === ChangeState::Undone,
            "is {$change->state->value} after undo: ".$change->steps()->where('state', 'kept')->value('message'),
        );
        $now = $this->state();
        $this->hold(
            $now === $before,
            'is not as it was: '
                .json_encode(
                    [
                        array_diff_assoc($now['pages'], $before['pages']),
                        array_diff_assoc($now['files'], $before['files']),
                        array_diff_key($before['files'], $now['files']),
                    ],
                    JSON_INVALID_UTF8_SUBSTITUTE,
                ),
        );
        DB::table('changes')->where('id', $change->id)->delete();
    }

    private function kill(Change $change): void
    {
        $worker = proc_open(
            [PHP_BINARY, '-d', 'opcache.enable_cli=1', __DIR__.'/worker.php'],
            [1 => ['pipe', 'w'], 2 => ['file', '/dev/null', 'w']],
            $pipes,
            null,
            [
                ...getenv(),
                'APP_ENV' => 'testing',
                'CACHE_STORE' => 'array',
                'QUEUE_CONNECTION' => 'sync',
            ],
        );
        if ($worker === false || fgets($pipes[1]) !== "ready\n") {
            throw new RuntimeException('The worker did not start.');
        }
        usleep(mt_rand(20_000, 420_000));
        proc_terminate($worker, SIGKILL);
        proc_close($worker);
        $this->wait($change);
        $state =
            $change->refresh()->state->value.
            ' '
            .$change
                ->steps()
                ->whereIn('state', ['done', 'undone'])
                ->count();
        $this->caught[$state] = ($this->caught[$state] ?? 0) + 1;
        for ($i = 0; $i < 3 && $change->refresh()->state->isRunning(); $i++) {
            app(Recovery::class)->run();
        }
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
            throw new RuntimeException("$this->kind: the change $what");
        }
    }
}
