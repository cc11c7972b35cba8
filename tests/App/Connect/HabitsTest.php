<?php

declare(strict_types=1);

use App\Connect\MapProposer;
use App\Models\Change;
use App\Models\MediaItem;
use App\Models\MediaReference;
use App\Models\Record;
use App\Models\Site;
use App\Sites\FieldMap;
use App\Sites\FolderStore;
use App\Sites\Packed\Packing;
use Illuminate\Support\Facades\Artisan;
use Tests\App\Connect\Bakery;
use Tests\App\Connect\Ferries;
use Tests\App\Connect\ForeignSite;
use Tests\App\Connect\Guild;
use Tests\App\Connect\NetLaw;
use Tests\App\Connect\Organs;
use Tests\App\Connect\Quarry;
use Tests\App\Connect\Radio;
use Tests\App\Connect\SecondSite;
use Tests\App\Connect\Shop;
use Tests\App\Connect\Trust;
use Tests\App\Loopback;
use Ylema\Connect\Proposal;
use Ylema\Reading\Notation;
use Ylema\Usage\RecordState;

/*
 * Sites that nobody described, each with habits that no other has. The map is proposed and read as it is; what it finds
 * is held against what the site's makers know.
 */

beforeEach(function (): void {
    $this->touched();
    $this->server = null;
    $this->made = self::folder().'/foreign.sqlite';
    @unlink($this->made);
});

afterEach(function (): void {
    $this->server?->end();
});

/**
 * @param  array{dsn: string, user: string, password: string}  $connection
 * @return array{Site, FieldMap, Proposal}
 */
function readAsProposed(object $test, string $address, array $connection, ForeignSite $foreign): array
{
    $folder = $test->folder;
    $site = Site::query()->create([
        'slug' => 'foreign',
        'name' => 'Foreign',
        'address' => $address,
        'former' => ['https://www.brassguild.example/', 'http://old.skerryradio.example/'],
        'field_map' => '',
        'connection' => [...$connection, 'folder' => $folder],
        'reach_at' => $test->server === null
            ? []
            : [(string) parse_url($address, PHP_URL_HOST) => $test->server->origin()],
    ]);
    $proposer = app(MapProposer::class);
    $proposal = $proposer->propose($site, new FolderStore($folder, ['']));
    $site->update(['field_map' => $proposer->yaml($proposal)]);
    $map = FieldMap::parse($site->field_map);
    expect(SecondSite::read($site)->problem)->toBeNull();
    $found = SecondSite::uses($site, static fn (string $kind): string => (string) $map->kind($kind)->table);
    $found = array_values(array_filter($found, static fn (string $use): bool => ! str_starts_with($use, '|')));
    sort($found);
    $used = array_unique(array_map(static fn (string $use): string => explode('|', $use)[3], $foreign->uses));
    $idle = MediaItem::query()->where('site_id', $site->id)->where('standing', 'idle')->pluck('path')->all();
    expect($found)->toBe($foreign->uses)
        ->and(array_intersect($idle, $used))->toBe([])
        ->and(array_diff($foreign->idle, $idle))->toBe([]);

    return [$site, $map, $proposal];
}

/**
 * @param  list<string>  $tables
 * @return list<list<list<mixed>>> all rows of these, byte for byte
 */
function allRows(PDO $pdo, array $tables): array
{
    $quote = $pdo->getAttribute(PDO::ATTR_DRIVER_NAME) === 'mysql' ? '`' : '"';

    return array_map(
        static fn (string $table): array => $pdo
            ->query("select * from $quote$table$quote order by 1, 2")
            ->fetchAll(PDO::FETCH_NUM),
        $tables,
    );
}

/** Takes back whatever was changed, the last change first. */
function undoAll(Site $site): void
{
    foreach (Change::query()->where('site_id', $site->id)->orderByDesc('id')->pluck('id') as $change) {
        Artisan::call('ylema:undo', ['change' => (string) $change]);
    }
}

it('proposes a map of tables whose words run together and whose ids are words', function (): void {
    $this->folder = self::folder().'/shop';
    $shop = new Shop(new PDO("sqlite:$this->made"), $this->folder);
    $connection = ['dsn' => "sqlite:$this->made", 'user' => '', 'password' => ''];
    [, $map, $proposal] = readAsProposed($this, 'https://www.shop.example/', $connection, $shop);
    expect($map->media?->sizes?->table)
        ->toBe('asset_variants')
        ->and($map->kind('attachment')->owners[0]->targetFrom)
        ->toBe(['column' => 'ownerType', 'kinds' => ['article' => 'page', 'product' => 'product']])
        ->and(array_keys($proposal->leftOut))
        ->toContain('page_views');
});

it('swaps what is a part of the key of a row that ties it, and undoes it', function (): void {
    $this->folder = self::folder().'/shop';
    $pdo = new PDO("sqlite:$this->made");
    $shop = new Shop($pdo, $this->folder);
    $connection = ['dsn' => "sqlite:$this->made", 'user' => '', 'password' => ''];
    [$site] = readAsProposed($this, 'https://www.shop.example/', $connection, $shop);
    $site->update(['writes' => true]);
    $whole = static fn (): array => allRows($pdo, [
        'articles', 'products', 'product_images', 'homepage_blocks', 'site_options', 'testimonials',
    ]);
    $before = $whole();
    $placed = $pdo->query('select a.storagePath, i.assetId from product_images i join assets a on a.uuid = i.assetId '
        .'where i.productId = 1')->fetch(PDO::FETCH_NUM);
    $other = $pdo->query("select storagePath, uuid from assets where storagePath like '%photo_60.jpg'")
        ->fetch(PDO::FETCH_NUM);
    $keys = static fn (): array => Record::query()
        ->where('site_id', $site->id)
        ->where('key', 'like', '1/%')
        ->pluck('key')
        ->all();
    Artisan::call('ylema:swap', ['site' => 'foreign', 'from' => $placed[0], 'to' => $other[0]]);
    $says = Artisan::output();
    expect($pdo->query('select assetId from product_images where productId = 1')->fetchColumn())
        ->toBe($other[1], $says)
        ->and($keys())
        ->toBe(["1/$other[1]"])
        ->and(MediaItem::query()->where('site_id', $site->id)->where('path', $placed[0])->value('uses'))
        ->toBe(0);
    undoAll($site);
    expect($whole())
        ->toBe($before)
        ->and($keys())
        ->toBe(["1/$placed[1]"]);
});

it('proposes a map where paths stand in three columns, ids in arrays, and pages below a folder of no column', function (
): void {
    $connection = [
        'dsn' => SecondSite::postgres(),
        'user' => (string) config('demo.user'),
        'password' => (string) config('demo.password'),
    ];
    $this->folder = self::folder().'/guild';
    $guild = new Guild(new PDO(...array_values($connection)), $this->folder);
    [, $map, $proposal] = readAsProposed($this, 'https://brassguild.example/', $connection, $guild);
    expect($map->media?->path->text)
        ->toBe('storage/public/{directory}/{basename}.{extension}')
        ->and($map->kind('document')->addresses[0]->text)
        ->toBe('guild/{slug}')
        // What an element of its own holds is read by what it plainly is.
        ->and(MediaReference::query()->where('role', 'mj-image[src]')->whereNotNull('media_item_id')->exists())
        ->toBeTrue()
        ->and($map->redirects['from'] ?? null)
        ->toBe('src')
        // Two is what most of its rows have, and so is taken for "out"; all of them are asked about.
        ->and(array_map(static fn (object $q): string => $q->id, $proposal->questions))
        ->not->toContain('cms.document.address');
});

it('proposes a map of a site whose files are met by their numbers, and whose words stand in json', function (): void {
    $connection = [
        'dsn' => SecondSite::postgres(),
        'user' => (string) config('demo.user'),
        'password' => (string) config('demo.password'),
    ];
    $this->folder = self::folder().'/trust';
    $pdo = new PDO(...array_values($connection));
    $trust = new Trust($pdo, $this->folder);
    [$site, $map, $proposal] = readAsProposed($this, 'https://www.lighttrust.example/', $connection, $trust);
    expect($map->media?->path->text)
        ->toBe('blobs/{sha.1-2}/{sha}')
        ->and($map->mediaPages?->folders())
        ->toBe(['files/'])
        ->and(array_column($map->kind('story')->addresses, 'text'))
        ->toBe(['cy/straeon/{slug->cy}', 'stories/{slug->en}'])
        ->and($map->kind('note')->owners[0]->targetFrom['kinds'] ?? null)
        ->toBe(['App\Models\Event' => 'event', 'App\Models\Page' => 'page'])
        ->and($map->kind('zone')->fields['config']->rules['']->paths[0]->target)
        ->toBe('banner')
        ->and(array_keys($proposal->leftOut))
        ->toContain('DownloadCount');
    $story = Record::query()->where('site_id', $site->id)->where('kind', 'story')->where('key', '3')->firstOrFail();
    expect([$story->title, $story->address])->toBe(['Stori 3', 'cy/straeon/stori-3']);

    $site->update(['writes' => true]);
    $whole = static fn (): array => allRows($pdo, [
        'Page', 'Story', 'Event', 'SiteConfig', 'Person', 'Zone', 'MediaFile',
    ]);
    $before = $whole();
    $sha = $pdo->query('select "id", "sha" from "MediaFile"')->fetchAll(PDO::FETCH_KEY_PAIR);
    $path = static fn (int $id): string => 'blobs/'.substr($sha[$id], 0, 2)."/$sha[$id]";
    foreach ([35, 60, 65, 67] as $from) {
        Artisan::call('ylema:swap', ['site' => 'foreign', 'from' => $path($from), 'to' => $path(70)]);
        $says = Artisan::output();
        expect(MediaItem::query()->where('site_id', $site->id)->where('path', $path($from))->value('uses'))
            ->toBe(0, $says);
    }
    $config = json_decode((string) $pdo->query('select "data" from "SiteConfig"')->fetchColumn(), true);
    expect($pdo->query('select "bodyMd" from "Story" where "id" = 2')->fetchColumn())
        ->toContain('![lamp](/files/70/light-35.jpg)')
        ->and([$config['logo'], $config['footer']['html']])
        ->toBe([70, '<img src="/files/70/200x0/light-67.jpg">']);
    undoAll($site);
    expect($whole())->toBe($before);
});

it('proposes a map of tables in another language, whose folders are rows of their own', function (): void {
    $this->folder = self::folder().'/organs';
    $organs = new Organs(new PDO("sqlite:$this->made"), $this->folder);
    $connection = ['dsn' => "sqlite:$this->made", 'user' => '', 'password' => ''];
    [, $map, $proposal] = readAsProposed($this, 'http://www.orgelmuseum.example/', $connection, $organs);
    expect($map->media?->path->text)
        ->toMatch('~^dateien/bilder/\{\w+\.pfad\}/\{datei\}$~')
        ->and($map->media?->sizes?->table)
        ->toBe('tbl_bild_varianten')
        ->and($map->scripts)
        ->toBe(['bild.php?datei={path}' => 'dateien/bilder/'])
        ->and($map->kind('seiten')->addresses[0]->text)
        ->toBe('{rubriken.kuerzel}/{kurzname}')
        ->and($map->kind('zusatz')->owners[0]->targetFrom)
        ->toBe(['column' => 'objekt', 'kinds' => ['seite' => 'seiten']])
        ->and($map->redirects['to'] ?? null)
        ->toBe('neu')
        ->and(array_keys($proposal->leftOut))
        ->toContain('tbl_zwischenspeicher');
});

it('proposes a map of an old site from what its public pages show', function (): void {
    $this->folder = self::folder().'/quarry';
    $quarry = new Quarry(new PDO("sqlite:$this->made"), $this->folder);
    $this->server = new Loopback(__DIR__.'/quarry-site.php', ['QUARRY' => $this->made]);
    $connection = ['dsn' => "sqlite:$this->made", 'user' => '', 'password' => ''];
    [$site, $map, $proposal] = readAsProposed($this, 'http://www.slatequarry.example/', $connection, $quarry);
    $pages = Record::query()->where('site_id', $site->id)->where('is_page', true)->where('state', 0)->pluck('address');
    expect($map->media?->path->text)
        ->toBe('pics/g{gal_id}/{pid}.{kind}')
        ->and($map->kind('page')->addresses[0]->text)
        ->toBe('{up.address|en}/{link_en}')
        ->and($map->kind('post')->addresses[0]->text)
        ->toBe('news.php?item={nid}')
        ->and($map->kind('content-box')->key->columns)
        ->toBe(['cid', 'bid'])
        ->and($pages->all())
        ->toContain('en/about', 'en/visit/page-4', 'news.php?item=3')
        // What is not out is no page that anybody is shown.
        ->not->toContain('en/history/page-20', 'news.php?item=7')
        // Which numbers mean "out" was seen, so nobody is asked.
        ->and($pages->filter(static fn (string $a): bool => preg_match('~/page-1[0347]$~', $a) === 1)
            ->sort()->values()->all())
        ->toBe(['en/history/page-14', 'en/visit/page-13'])
        ->and(array_map(static fn (object $q): string => $q->id, $proposal->questions))
        ->not->toContain('sq_content.status');
});

it('proposes a map of articles that point at the version shown, and of numbers in attributes', function (): void {
    $this->folder = self::folder().'/ferries';
    $pdo = new PDO("sqlite:$this->made");
    $ferries = new Ferries($pdo, $this->folder);
    $connection = ['dsn' => "sqlite:$this->made", 'user' => '', 'password' => ''];
    [$site, $map] = readAsProposed($this, 'https://ferryhandbook.example/', $connection, $ferries);
    expect($map->kind('page-text')->where)
        ->toBe('id in (select current_id from fh_article where current_id is not null)')
        ->and($map->kind('page-text')->owners[0]->target)
        ->toBe('page')
        ->and($map->lazyAttributes)
        ->toBe(['data-picture' => Notation::MediaId])
        ->and(array_keys($map->elements))
        ->toBe(['map', 'shot'])
        ->and($map->tokens[0]->target)
        ->toBe('box');
    $state = static fn (string $kind, int $key): array => Record::query()
        ->where('site_id', $site->id)
        ->where('kind', $kind)
        ->where('key', (string) $key)
        ->get(['state'])
        ->map(static fn (Record $record): string => RecordState::from((int) $record->state)->word())
        ->all();
    expect($state('page-text', 2))
        ->toBe(['live'])
        ->and($state('article-version', 2))
        ->toBe([])
        ->and($state('article-version', 3))
        ->toBe(['fading'])
        // Digits of a minute: one that comes, one that is over.
        ->and([$state('page', 7), $state('page', 9)])
        ->toBe([['waiting'], ['fading']]);

    $site->update(['writes' => true]);
    $whole = static fn (): array => allRows($pdo, ['fh_article_version', 'fh_route', 'fh_box', 'fh_extra']);
    $before = $whole();
    Artisan::call('ylema:swap', ['site' => 'foreign', 'from' => 'store/03/f3.jpg', 'to' => 'store/12/f60.jpg']);
    expect($pdo->query('select body from fh_article_version where id = 2 - 1')->fetchColumn())
        ->toContain('<figure data-picture="2"')
        ->and($pdo->query('select body from fh_article_version where id = 2')->fetchColumn())
        ->toContain('<figure data-picture="60" class="wide">')
        ->and($pdo->query('select layout from fh_route where id = 3')->fetchColumn())
        ->toBe('<layout><map file="60"/><strip><shot file="41" size="l"/></strip></layout>');
    undoAll($site);
    expect($whole())->toBe($before);
});

it('proposes a map of a site whose files are called as its rows are, and named by none of them', function (): void {
    $this->folder = self::folder().'/bakery';
    $pdo = new PDO("sqlite:$this->made");
    $bakery = new Bakery($pdo, $this->folder);
    $connection = ['dsn' => "sqlite:$this->made", 'user' => '', 'password' => ''];
    [$site, $map] = readAsProposed($this, 'http://www.tidemillbakery.example/', $connection, $bakery);
    $shown = static fn (string $kind): array => array_column($map->kind($kind)->shows, 'text');
    expect($map->media)
        ->toBeNull()
        ->and($shown('gallery'))
        ->toBe(['galleries/{folder}/*'])
        ->and($shown('recipe'))
        ->toBe(['images/recipes/recipe_{id}.jpg', 'images/recipes/thumbs/recipe_{id}.jpg'])
        ->and($shown('shop'))
        ->toBe(['images/maps/{map_image}.gif'])
        ->and($map->kind('product')->fields['descr']->rules['']->packing)
        ->toBe(Packing::Escaped)
        ->and($map->kind('guestbook')->fields['entry']->rules['']->packing)
        ->toBe(Packing::Slashed)
        ->and(array_column($map->kind('page')->addresses, 'text'))
        ->toBe(['{file}'])
        ->and(Record::query()->where('site_id', $site->id)->where('is_page', true)->where('state', '>', 0)->count())
        ->toBe(0);

    // What comes into such a folder, and what goes, is met by the next reading, though no row has changed.
    $uses = static fn (string $path): ?int => MediaItem::query()
        ->where('site_id', $site->id)
        ->where('path', $path)
        ->value('uses');
    file_put_contents("$this->folder/galleries/ovens/new.jpg", 'new');
    unlink("$this->folder/galleries/ovens/img_1.jpg");
    expect(SecondSite::read($site)->problem)
        ->toBeNull()
        ->and($uses('galleries/ovens/new.jpg'))
        ->toBe(1)
        ->and($uses('galleries/ovens/img_1.jpg'))
        ->toBeNull();

    // Whatever its ending is.
    $site->update(['field_map' => str_replace('recipe_{id}.jpg', 'recipe_{id}.*', $site->field_map)]);
    file_put_contents("$this->folder/images/recipes/recipe_3.TIFF", 'new');
    expect(SecondSite::read($site)->problem)
        ->toBeNull()
        ->and($uses('images/recipes/recipe_3.TIFF'))
        ->toBe(1)
        ->and($uses('images/recipes/recipe_2.jpg'))
        ->toBeGreaterThan(0);

    // No text names it, so a plan that would write another name says why it leaves it.
    $site->update(['writes' => true]);
    Artisan::call('ylema:swap', [
        'site' => 'foreign', 'from' => 'galleries/ovens/new.jpg', 'to' => 'images/unused.gif', '--dry-run' => true,
    ]);
    expect(Artisan::output())->toContain('finds galleries/ovens/new.jpg by what the record is called');

    // What is escaped, and what has slashes, is so again.
    $whole = static fn (): array => allRows($pdo, ['products', 'guestbook', 'settings']);
    $before = $whole();
    foreach (['images/seal.png', 'images/smile/s1.gif'] as $from) {
        Artisan::call('ylema:swap', ['site' => 'foreign', 'from' => $from, 'to' => 'images/unused.gif']);
    }
    expect($pdo->query("select descr from products where nr = 'A-101'")->fetchColumn())
        ->toBe('&lt;b&gt;Good&lt;/b&gt; &lt;img src=&quot;/images/unused.gif&quot; alt=&quot;&amp;eacute;&quot;&gt;')
        ->and($pdo->query('select entry from guestbook where id = 1')->fetchColumn())
        ->toBe('It\\\'s <img src=\\"/images/unused.gif\\">');
    undoAll($site);
    expect($whole())->toBe($before);
});

it('proposes a map of a site with addresses of a scheme of its own, sizes in columns, and text packed twice', function (
): void {
    $this->folder = self::folder().'/radio';
    $pdo = SecondSite::empty(SecondSite::maria());
    $radio = new Radio($pdo, $this->folder);
    $connection = SecondSite::credentials();
    [$site, $map] = readAsProposed($this, 'https://www.skerryradio.example/', $connection, $radio);
    expect($map->schemes)
        ->toBe(['vault' => 'shared/'])
        ->and(array_column($map->media->ownSizes ?? [], 'text'))
        ->toBe(['{thumb}', '{wide}'])
        ->and(array_column($map->kind('programme')->addresses, 'text'))
        ->toBe(['en/programmes/{slug_en}', 'ga/clair/{slug_ga}'])
        ->and($map->kind('trait-value')->fields['value']->by)
        ->toBe('trait.code')
        ->and($map->kind('widget')->fields['packed']->rules['']->packing)
        ->toBe(Packing::Base64)
        ->and($map->kind('feature')->fields['points_at']->rules['']->typed)
        ->toBe(['picture/' => null, 'programme/' => 'programme'])
        ->and($map->tokens)
        ->toHaveCount(1);

    // What stands in each of these ways is swapped, and comes back byte for byte.
    $site->update(['writes' => true]);
    $whole = static fn (): array => allRows($pdo, [
        'sr_programme', 'sr_episode', 'sr_trait_value', 'sr_widget', 'sr_feature', 'sr_config', 'sr_menu',
        'sr_draft', 'sr_picture',
    ]);
    $before = $whole();
    $pictures = $pdo->query('select id, file from sr_picture')->fetchAll(PDO::FETCH_KEY_PAIR);
    $path = static fn (int $id): string => str_replace('vault://', 'shared/', (string) $pictures[$id]);
    $swap = function (int $from, int $to) use ($path, $site): void {
        Artisan::call('ylema:swap', ['site' => 'foreign', 'from' => $path($from), 'to' => $path($to)]);
        $says = Artisan::output();
        expect(MediaItem::query()->where('site_id', $site->id)->where('path', $path($from))->value('uses'))
            ->toBe(0, $says);
    };
    foreach ([32, 47, 53, 52] as $from) {
        $swap($from, 70);
    }
    expect($pdo->query('select value from sr_trait_value where value = \'70\'')->fetchAll())
        ->not->toBe([])
        ->and($pdo->query('select points_at from sr_feature where id = 1')->fetchColumn())
        ->toBe('picture/70')
        ->and(unserialize((string) base64_decode(
            (string) $pdo->query('select packed from sr_widget where id = 1')->fetchColumn(),
            true,
        )))
        ->toMatchArray(['picture' => 70, 'html' => '<img src="/shared/pics/2010/Studio%20pic%2070.jpg">']);
    // Files that move take the list of media with them, in its own way of writing.
    Artisan::call('ylema:move', ['site' => 'foreign', 'from' => 'shared/made/s/', 'to' => 'shared/made/small/']);
    Artisan::call('ylema:move', ['site' => 'foreign', 'from' => 'shared/look/', 'to' => 'shared/style/']);
    $row = $pdo->query('select file, thumb, wide from sr_picture where id = 46')->fetch(PDO::FETCH_NUM);
    expect($row)
        ->toBe(['vault://pics/2014/Studio pic 46.jpg', 'vault://made/small/pic-46-small.jpg',
            'vault://made/w/pic-46-wide.jpg'])
        ->and($pdo->query("select value from sr_config where name = 'logo'")->fetchColumn())
        ->toBe('vault://style/logo.svg')
        ->and(is_file("$this->folder/shared/made/small/pic-46-small.jpg"))
        ->toBeTrue();
    undoAll($site);
    expect($whole())->toBe($before);
});

it('keeps the law of the net on each of these sites', function (string $maker, string $address): void {
    $this->folder = self::folder().'/law';
    $connection = match ($maker) {
        Guild::class, Trust::class => [
            'dsn' => SecondSite::postgres(),
            'user' => (string) config('demo.user'),
            'password' => (string) config('demo.password'),
        ],
        Radio::class => SecondSite::credentials(),
        default => ['dsn' => "sqlite:$this->made", 'user' => '', 'password' => ''],
    };
    $pdo = $maker === Radio::class ? SecondSite::empty(SecondSite::maria()) : new PDO(...array_values($connection));
    $foreign = new $maker($pdo, $this->folder);
    if ($maker === Quarry::class) {
        $this->server = new Loopback(__DIR__.'/quarry-site.php', ['QUARRY' => $this->made]);
    }
    [$site] = readAsProposed($this, $address, $connection, $foreign);
    $used = array_map(static fn (string $use): string => explode('|', $use)[3], $foreign->uses);
    NetLaw::holds($site, $pdo, $this->folder, array_values(array_unique($used)));
})->with([
    'a shop' => [Shop::class, 'https://www.shop.example/'],
    'a guild' => [Guild::class, 'https://brassguild.example/'],
    'a trust' => [Trust::class, 'https://www.lighttrust.example/'],
    'a museum' => [Organs::class, 'http://www.orgelmuseum.example/'],
    'a quarry' => [Quarry::class, 'http://www.slatequarry.example/'],
    'ferries' => [Ferries::class, 'https://ferryhandbook.example/'],
    'a bakery' => [Bakery::class, 'http://www.tidemillbakery.example/'],
    'a radio' => [Radio::class, 'https://www.skerryradio.example/'],
]);
