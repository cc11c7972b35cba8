<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\MediaItem;
use App\Models\Role;
use App\Models\Site;
use App\Models\User;
use App\Reading\ReadSite;
use Illuminate\Foundation\Testing\TestCase;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use PDO;
use RuntimeException;

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

    public function createApplication()
    {
        $app = require __DIR__.'/../../bootstrap/app.php';
        $app->make(\Illuminate\Contracts\Console\Kernel::class)->bootstrap();
        config([
            'demo.dsn' => str_replace('dbname=korrinbay', 'dbname=korrinbay_app', (string) config('demo.dsn')),
            'demo.folder' => self::folder().'/site',
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

    protected static function folder(): string
    {
        return (getenv('YLEMA_VAR') ?: throw new RuntimeException('Run the tests with bin/test.')).'/app';
    }

    private function layOut(): void
    {
        DB::disconnect();
        Artisan::call('migrate:fresh', ['--force' => true]);
        $drawn = dirname(__DIR__, 2).'/var/drawn';
        $folder = escapeshellarg(self::folder());
        // Hard links: writing goes beside and renames, so the drawn originals are never touched.
        shell_exec("rm -rf $folder && mkdir -p $folder && cp -al ".escapeshellarg($drawn.'/site')." $folder/site");
        $database = self::content();
        $generator = new \Standin\Content\Generator(self::folder());
        $generator->write(new \Standin\Content\Scenario(new \Standin\Content\Catalogue), $database);
        Artisan::call('ylema:demo');
        app(ReadSite::class)->begin($this->site(), null);
        $state = $this->site()->readings()->orderByDesc('id')->first();
        if ($state?->state->value !== 'done') {
            throw new RuntimeException('The demo could not be read: '.($state->problem ?? 'no reading'));
        }
    }

    /** The demo's own connection to its content, as its editors would use it. */
    protected static function content(): PDO
    {
        return self::$content ??= new PDO((string) config('demo.dsn'), (string) config('demo.user'), (string) config('demo.password'), [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION]);
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
        return MediaItem::query()->where('path', "media/$path")->firstOrFail();
    }

    protected function as(Role $role): static
    {
        return $this->actingAs(User::query()->where('email', "{$role->value}@korrinbay.example")->firstOrFail());
    }

    /** @return array<string, string> path → sha256 of every file of the site */
    protected function fileHashes(): array
    {
        $root = self::folder().'/site/';
        $hashes = [];
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($root, \FilesystemIterator::SKIP_DOTS)) as $file) {
            $hashes[substr((string) $file, strlen($root))] = (string) hash_file('sha256', (string) $file);
        }
        ksort($hashes);

        return $hashes;
    }

    /** A digest of every row of the site's content. */
    protected function contentDigest(): string
    {
        $all = [];
        foreach (['entries', 'revisions', 'media', 'banners', 'banner_sets', 'slots', 'parts', 'layouts', 'galleries', 'styles', 'settings'] as $table) {
            $all[$table] = self::content()->query("select * from $table order by 1")->fetchAll(PDO::FETCH_ASSOC);
        }

        return hash('sha256', serialize($all));
    }

    protected function jpeg(int $width = 900, int $height = 900): string
    {
        return \App\Media\Pictures::encode(\Standin\Drawing\Motifs::draw('portrait', 4711, $width, $height, '', 1.0)->image, 'jpg');
    }
}
