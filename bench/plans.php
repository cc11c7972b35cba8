<?php

declare(strict_types=1);

/*
 * What bench/swap and bench/repair have in common: a site of as many records as asked, whose plan is made, applied with
 * read-back and undone, each against a plain SQL replace() over the same rows, in the same run.
 */

use App\Changes\Journal;
use App\Models\ChangeState;
use App\Models\Site;
use App\Plans\PlanDesk;
use App\Reading\ReadSite;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Ylema\Plan\Planner;

require __DIR__.'/../vendor/autoload.php';

/** Once more, with the databases of the tests around it. */
function onTestDatabases(string $file, array $arguments): void
{
    if (getenv('YLEMA_VAR') === false) {
        $command = [dirname(__DIR__).'/bin/test', 'none', '--', $file, ...$arguments];
        passthru(implode(' ', array_map(escapeshellarg(...), $command)), $code);
        exit($code);
    }
}

/** The application on the databases of the tests, its own one empty. */
function benchApplication(): void
{
    $settings = [
        'DB_DATABASE' => 'ylema_app',
        'QUEUE_CONNECTION' => 'sync',
        'CACHE_STORE' => 'array',
        'APP_ENV' => 'testing',
    ];
    foreach ($settings as $name => $value) {
        $_ENV[$name] = $_SERVER[$name] = $value;
        putenv("$name=$value");
    }
    $app = require __DIR__.'/../bootstrap/app.php';
    $app->make(Kernel::class)->bootstrap();
    config(['demo.dsn' => str_replace('dbname=korrinbay', 'dbname=korrinbay_app', (string) config('demo.dsn'))]);
    Artisan::call('migrate:fresh', ['--force' => true]);
}

/**
 * A site of its own in the databases of the tests, read once.
 *
 * @param  callable(int): string  $body of a record
 * @param  list<string>  $former addresses of the site
 * @param  list<string>  $pictures names of files in the media folder
 * @return array{Site, PDO, string, float} with its content, its folder, and the seconds that reading it took
 */
function benchSite(int $records, callable $body, array $former, array $pictures): array
{
    benchApplication();
    $folder = sys_get_temp_dir().'/ylema-bench-'.getmypid();
    mkdir("$folder/media", 0o777, true);
    $content = new PDO((string) config('demo.dsn'), (string) config('demo.user'), (string) config('demo.password'), [
        PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION,
    ]);
    $content->exec('drop table if exists bench_posts, bench_media');
    $content->exec('create table bench_posts (id serial primary key, title text, body text)');
    $content->exec(
        'create table bench_media (id serial primary key, path text unique, title text, alt text, renditions text)',
    );
    foreach ($pictures as $name) {
        $picture = imagecreatetruecolor(900, 600);
        imagefilledrectangle($picture, 0, 0, 900, 600, random_int(0, 0xFFFFFF));
        imagejpeg($picture, "$folder/media/$name.jpg");
        $content->exec(
            "insert into bench_media (path, title, alt, renditions) values ('media/$name.jpg', '$name', '', '[]')",
        );
    }
    $insert = $content->prepare('insert into bench_posts (title, body) values (?, ?)');
    $content->beginTransaction();
    for ($i = 1; $i <= $records; $i++) {
        $insert->execute(["Post $i", $body($i)]);
    }
    $content->commit();
    $content->exec('analyze bench_posts');
    $map = <<<'YAML'
    version: 1
    media: { table: bench_media, key: id, path: path, title: title, alt: alt, renditions: renditions }
    files: { folders: [media] }
    records:
      post: { table: bench_posts, key: id, title: title, address: "posts/{id}", fields: { body: html } }
    YAML;
    $site = Site::query()->create([
        'slug' => 'bench',
        'name' => 'Bench',
        'address' => 'https://bench.example/',
        'former' => $former,
        'field_map' => $map,
        'reach_at' => [],
        'connection' => [
            'dsn' => config('demo.dsn'),
            'user' => config('demo.user'),
            'password' => config('demo.password'),
            'folder' => $folder,
        ],
    ]);
    $started = microtime(true);
    app(ReadSite::class)->begin($site, null);

    return [$site, $content, $folder, microtime(true) - $started];
}

/**
 * @param  callable(int): string  $body of a record
 * @param  list<string>  $former addresses of the site
 * @param  callable(Site): Planner  $planner
 * @param  array{string, string}  $replace what plain SQL writes for what
 * @param  list<string>  $pictures names of files in the media folder
 */
function benchPlans(
    int $records,
    int $rounds,
    callable $body,
    array $former,
    callable $planner,
    array $replace,
    array $pictures,
): void {
    [$site, $content, $folder, $seconds] = benchSite($records, $body, $former, $pictures);
    printf("read %d records in %.1f s: %s\n", $records, $seconds, $site->readings()->value('state')->value);
    Queue::fake();

    $clock = static function (callable $do): array {
        $started = microtime(true);
        $result = $do();

        return [microtime(true) - $started, $result];
    };
    [$old, $new] = array_map($content->quote(...), $replace);
    $like = $content->quote("%$replace[0]%");
    $with = fn (): int => (int) $content
        ->query("select count(*) from bench_posts where body like $like")
        ->fetchColumn();
    $all = $with();
    $before = $content->query("select md5(string_agg(body, '|' order by id)) from bench_posts")->fetchColumn();
    $best = ['replace' => INF, 'plan' => INF, 'apply' => INF, 'undo' => INF];
    for ($round = 1; $round <= $rounds; $round++) {
        [$time] = $clock(
            static fn () => $content->exec(
                "update bench_posts set body = replace(body, $old, $new) where body like $like",
            ),
        );
        $best['replace'] = min($best['replace'], $time);
        $content->exec("update bench_posts set body = replace(body, $new, $old)");
        $content->exec('vacuum analyze bench_posts');
        gc_collect_cycles();
        memory_reset_peak_usage();
        $memory = memory_get_usage();
        [$time, $plan] = $clock(static fn () => app(PlanDesk::class)->make($site, $planner($site), null));
        $best['plan'] = min($best['plan'], $time);
        $planned = memory_get_peak_usage() - $memory;
        memory_reset_peak_usage();
        $journal = app(Journal::class);
        [$time, $change] = $clock(static function () use ($journal, $plan) {
            $change = $journal->apply($plan, null, '');
            $journal->work($change);

            return $change->refresh();
        });
        $best['apply'] = min($best['apply'], $time);
        $applied = memory_get_peak_usage() - $memory;
        if ($change->state !== ChangeState::Applied || $with() !== 0) {
            exit("The change is {$change->state->value}.\n");
        }
        [$time] = $clock(static function () use ($journal, $change): void {
            $journal->undo($change, null);
            $journal->work($change);
        });
        $best['undo'] = min($best['undo'], $time);
        $after = $content->query("select md5(string_agg(body, '|' order by id)) from bench_posts")->fetchColumn();
        if ($change->refresh()->state !== ChangeState::Undone || $with() !== $all || $after !== $before) {
            exit("The change is {$change->state->value}.\n");
        }
        $content->exec('vacuum analyze bench_posts');
        DB::statement('vacuum analyze plan_steps');
    }
    printf("replace() in SQL      %6.0f ms\n", $best['replace'] * 1000);
    foreach (['plan' => 3, 'apply' => 6, 'undo' => 6] as $name => $goal) {
        printf(
            "%-21s %6.0f ms  %5.1f × (goal %d)\n",
            $name,
            $best[$name] * 1000,
            $best[$name] / $best['replace'],
            $goal,
        );
    }
    printf("memory: plan %.1f MB, apply %.1f MB\n", $planned / 1048576, $applied / 1048576);
    shell_exec('rm -rf '.escapeshellarg($folder));
}
