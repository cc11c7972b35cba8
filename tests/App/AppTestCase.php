<?php

declare(strict_types=1);

namespace Tests\App;

use App\Changes\Journal;
use App\Models\Change;
use App\Models\MediaItem;
use App\Models\Plan;
use App\Models\Role;
use App\Models\Site;
use App\Models\User;
use App\Plans\ChosenPlaces;
use App\Plans\PlanDesk;
use App\Reading\ReadSite;
use Illuminate\Foundation\Testing\TestCase;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use PDO;
use RuntimeException;
use Standin\Content\Catalogue;
use Standin\Content\Generator;
use Standin\Content\Scenario;
use Ylema\Swap\Manner;
use Ylema\Swap\SwapPlanner;
use Ylema\Swap\SwapRequest;

/**
 * Tests of the application on a real PostgreSQL and the whole demo content, in databases and a folder of their own.
 * The demo is laid out and read once; a test that changed something says so with $this->touched().
 */
abstract class AppTestCase extends TestCase
{
    /** Of a test that brings one along; closed with it. */
    public ?PDO $database = null;

    public string $folder = '';

    public mixed $store = null;

    private static bool $ready = false;

    private static ?PDO $content = null;

    private static bool $kept = false;

    private static ?Scenario $planted = null;

    public function createApplication()
    {
        $app = require __DIR__.'/../../bootstrap/app.php';
        $app->make(\Illuminate\Contracts\Console\Kernel::class)->bootstrap();
        config([
            'demo.dsn' => str_replace('dbname=korrinbay', 'dbname=korrinbay_app', (string) config('demo.dsn')),
            'demo.folder' => self::folder().'/site',
            // Nothing listens there: the demo that the browser tests look at has other content.
            'demo.site_port' => 1,
            'demo.former_port' => 1,
            'demo.foreign_port' => 1,
        ]);

        return $app;
    }

    protected function setUp(): void
    {
        parent::setUp();
        if (! self::$ready) {
            $this->layOut();
            self::$ready = true;
        }
    }

    protected function tearDown(): void
    {
        parent::tearDown();
        // An application holds itself in cycles, and its connections with it: PHP would let go of them some time, the
        // database has room for eighty.
        gc_collect_cycles();
    }

    /** The next test begins with the demo as on the first day. */
    protected function touched(): void
    {
        self::$ready = false;
    }

    public static function folder(): string
    {
        return (getenv('YLEMA_VAR') ?: throw new RuntimeException('Run the tests with bin/test.')).'/app';
    }

    /** Laid out and read once; after that, both databases are copies of what that left. */
    private function layOut(): void
    {
        $folder = escapeshellarg(self::folder().'/site');
        // Hard links: writing goes beside and renames, so the drawn originals are never touched.
        shell_exec(
            "rm -rf $folder && mkdir -p "
                .escapeshellarg(self::folder())
                .' && cp -al '
                .escapeshellarg(dirname(__DIR__, 2).'/var/drawn/site')
                ." $folder",
        );
        // What rested in another test's demo rests in none of the next one's.
        foreach (['rest', 'bags'] as $disk) {
            foreach (Storage::disk($disk)->directories() as $folder) {
                Storage::disk($disk)->deleteDirectory($folder);
            }
        }
        if (self::$kept) {
            $this->restore();

            return;
        }
        self::$content = null;
        DB::disconnect();
        Artisan::call('migrate:fresh', ['--force' => true]);
        (new Generator(self::folder()))->write(self::planted(), self::content());
        Artisan::call('ylema:demo');
        app(ReadSite::class)->begin($this->site(), null);
        $state = $this->site()->readings()->orderByDesc('id')->first();
        if ($state?->state->value !== 'done') {
            throw new RuntimeException('The demo could not be read: '.($state->problem ?? 'no reading'));
        }
        $this->keep();
    }

    private function keep(): void
    {
        $this->copyDatabases('', '_first');
        self::$kept = true;
    }

    private function restore(): void
    {
        $this->copyDatabases('_first', '');
    }

    private function copyDatabases(string $from, string $to): void
    {
        self::$content = null;
        DB::disconnect();
        gc_collect_cycles();
        $server = config('database.connections.pgsql');
        $admin = new PDO(
            "pgsql:host={$server['host']};port={$server['port']};dbname=postgres",
            $server['username'],
            $server['password'],
            [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION],
        );
        foreach (['ylema_app' => $server['username'], 'korrinbay_app' => config('demo.user')] as $name => $owner) {
            $admin->exec("drop database if exists $name$to with (force)");
            $admin->exec("select pg_terminate_backend(pid) from pg_stat_activity where datname = '$name$from'");
            $admin->exec("create database $name$to template $name$from owner $owner strategy file_copy");
        }
    }

    /** What the generator planted, written down as it planted it. */
    protected static function planted(): Scenario
    {
        return self::$planted ??= new Scenario(new Catalogue());
    }

    /** @param  list<int>|null  $only */
    public function plan(
        string $from,
        ?string $to,
        Manner $manner = Manner::NewReference,
        ?string $upload = null,
        ?array $only = null,
        string $title = '',
        string $alt = '',
    ): Plan {
        $item = $this->item($from);
        $request = new SwapRequest(
            $item->id,
            $manner,
            $to === null ? null : $this->item($to)->id,
            $upload,
            ChosenPlaces::of($item, $only, null),
            $title,
            $alt,
        );

        return app(PlanDesk::class)->make($this->site(), new SwapPlanner($request), null);
    }

    protected function apply(Plan $plan, string $reason = ''): Change
    {
        $this->touched();

        return app(Journal::class)->apply($plan, null, $reason)->refresh();
    }

    protected function undo(Change $change): Change
    {
        return app(Journal::class)->undo($change, null)->refresh();
    }

    /** The demo's own connection to its content, as its editors would use it. */
    protected static function content(): PDO
    {
        return self::$content ??= new PDO(
            (string) config('demo.dsn'),
            (string) config('demo.user'),
            (string) config('demo.password'),
            [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION],
        );
    }

    protected static function contentValue(string $sql, mixed ...$values): string
    {
        $statement = self::content()->prepare($sql);
        $statement->execute($values);

        return (string) $statement->fetchColumn();
    }

    public function site(): Site
    {
        return Site::query()->where('slug', 'korrin-bay')->firstOrFail();
    }

    public function item(string $path): MediaItem
    {
        return MediaItem::query()
            ->where('path', "media/$path")
            ->firstOrFail();
    }

    public function as(Role $role): static
    {
        return $this->actingAs(
            User::query()
                ->where('email', "{$role->value}@korrinbay.example")
                ->firstOrFail(),
        );
    }

    /** @return array<string, string> path → sha256 of every file of the site */
    protected function fileHashes(): array
    {
        $root = self::folder().'/site/';
        $hashes = [];
        $files = new \RecursiveDirectoryIterator($root, \FilesystemIterator::SKIP_DOTS);
        foreach (new \RecursiveIteratorIterator($files) as $file) {
            $hashes[substr((string) $file, strlen($root))] = (string) hash_file('sha256', (string) $file);
        }
        ksort($hashes);

        return $hashes;
    }

    /** A digest of every row of the site's content. */
    protected function contentDigest(): string
    {
        $all = [];
        foreach (
            [
                'entries',
                'revisions',
                'media',
                'banners',
                'banner_sets',
                'slots',
                'parts',
                'layouts',
                'galleries',
                'styles',
                'settings',
            ] as $table
        ) {
            $all[$table] = self::content()
                ->query("select * from $table order by 1")
                ->fetchAll(PDO::FETCH_ASSOC);
        }

        return hash('sha256', serialize($all));
    }

    public function jpeg(int $width = 900, int $height = 900): string
    {
        return self::bytes(\Standin\Drawing\Motifs::draw('portrait', 4711, $width, $height, '', 1.0)->image, 'jpeg');
    }

    /** @param  string  $type as GD names its writers: jpeg, png, webp, avif, gif */
    protected static function bytes(\GdImage $image, string $type): string
    {
        ob_start();
        ('image'.$type)($image);

        return (string) ob_get_clean();
    }
}
