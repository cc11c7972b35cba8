<?php

declare(strict_types=1);

namespace Tests\App;

use App\Changes\Journal;
use App\Media\Uploads;
use App\Models\Change;
use App\Models\MediaItem;
use App\Models\Plan;
use App\Models\Role;
use App\Models\Site;
use App\Models\User;
use App\Plans\ChosenPlaces;
use App\Plans\PlanDesk;
use Illuminate\Foundation\Testing\TestCase;
use PDO;
use Standin\Content\Catalogue;
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

    private static int $ended = 0;

    private static ?PDO $content = null;

    private static ?Scenario $planted = null;

    public function createApplication()
    {
        Surroundings::own();
        $app = require __DIR__.'/../../bootstrap/app.php';
        $app->make(\Illuminate\Contracts\Console\Kernel::class)->bootstrap();

        return $app;
    }

    protected function setUp(): void
    {
        parent::setUp();
        if (! self::$ready) {
            self::$content = null;
            FirstDay::lay(self::planted());
            self::$ready = true;
        }
    }

    protected function tearDown(): void
    {
        parent::tearDown();
        // An application holds itself in cycles, and its connections with it: PHP would let go of them some time, the
        // database has room for some hundred.
        if (++self::$ended % 8 === 0) {
            gc_collect_cycles();
        }
    }

    /** The next test begins with the demo as on the first day. */
    protected function touched(): void
    {
        self::spoil();
    }

    /** The same after a whole file of tests, for whichever comes next in this process. */
    public static function spoil(): void
    {
        self::$ready = false;
    }

    public static function folder(): string
    {
        return Surroundings::own()->folder().'/app';
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
        return $this->actingAs(self::person($role));
    }

    protected static function person(Role $role): User
    {
        return User::query()
            ->where('email', "{$role->value}@korrinbay.example")
            ->firstOrFail();
    }

    /** The token of a picture that somebody sent to the demo's site. */
    public function sent(string $bytes, string $name, Role $by = Role::Maintainer): string
    {
        return app(Uploads::class)->keep($bytes, $name, $this->site(), self::person($by))['token'];
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
