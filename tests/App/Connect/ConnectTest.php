<?php

declare(strict_types=1);

use App\Models\MediaItem;
use App\Models\Site;
use App\Plans\PlanDesk;
use App\Retire\Proofs;
use App\Sites\SiteOpener;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Symfony\Component\Yaml\Yaml;
use Tests\App\Connect\SecondSite;
use Tests\App\Sources\SshServer;
use Tests\App\Surroundings;
use Ylema\Move\MovePlanner;
use Ylema\Move\MoveRequest;

/*
 * A site is connected from a file of settings: tested, its map proposed, and only read until its owner says otherwise.
 */

beforeEach(function (): void {
    $this->touched();
    $this->folder = self::folder().'/mill';
    shell_exec('rm -rf '.escapeshellarg(self::folder().'/root'));
    SecondSite::mill($this->folder);
    $this->settings = [
        'name' => 'Hollin Mill',
        'address' => 'https://hollinmill.example',
        'content' => [
            'engine' => 'MariaDB',
            'host' => '127.0.0.1',
            'port' => SecondSite::port(),
            'database' => Surroundings::own()->named('sources'),
            'user' => 'sources',
            'password_from' => 'MARIA_PASSWORD',
        ],
        'files' => $this->folder,
    ];
});

/** @param  array<string, mixed>  $settings */
function connected(object $test, array $settings, array $options = []): array
{
    $file = $test::folder().'/settings.yaml';
    file_put_contents($file, Yaml::dump($settings, 6));
    $code = Artisan::call('ylema:connect', ['file' => $file, '--no-interaction' => true, ...$options]);

    return [$code, Artisan::output()];
}

it('connects a site whose files lie on another machine, and finds the same', function (): void {
    $keys = self::folder().'/keys';
    shell_exec('rm -rf '.escapeshellarg($keys));
    mkdir($keys, 0o700);
    $server = new SshServer($keys);
    try {
        [$code, $says] = connected($this, [...$this->settings, 'files' => ['sftp' => $server->said($this->folder)]]);
        expect($code)->toBe(0, $says);
        $far = Site::query()->where('slug', 'hollin-mill')->sole();
        expect(SecondSite::read($far)->problem)->toBeNull()
            ->and(Artisan::call('ylema:check', ['site' => 'hollin-mill', '--writes' => true]))->toBe(0);
        connected($this, [...$this->settings, 'short' => 'near']);
        $near = Site::query()->where('slug', 'near')->sole();
        SecondSite::read($near);
        $uses = static fn (Site $site): array => SecondSite::uses($site, strval(...));
        expect($uses($far))->toEqualCanonicalizing($uses($near))->and(count($uses($far)))->toBeGreaterThan(200)
            ->and(DB::table('sites')->where('id', $far->id)->value('connection'))->not->toContain('PRIVATE KEY');
    } finally {
        $server->end();
    }
});

it('connects a site by one file, reads it, and shows neither password nor map to anybody', function (): void {
    [$code, $says] = connected($this, $this->settings);
    expect($says)
        ->toContain('ok     database: It lets "sources" in.')
        ->toContain('Connected as "hollin-mill", only to be read.')
        ->and($code)
        ->toBe(0);
    $site = Site::query()->where('slug', 'hollin-mill')->sole();
    expect($site->writes)
        ->toBeFalse()
        ->and(SecondSite::read($site)->problem)
        ->toBeNull()
        ->and(MediaItem::query()->where('site_id', $site->id)->where('standing', 'live')->count())
        ->toBeGreaterThan(40)
        ->and(DB::table('sites')->where('id', $site->id)->value('connection'))
        ->not->toContain((string) getenv('MARIA_PASSWORD'))
        ->and(json_encode($site))
        ->not->toContain('connection')
        ->and(DB::table('field_maps')->where('site_id', $site->id)->value('yaml'))
        ->toBe($site->field_map);
    expect(Artisan::call('ylema:check', ['site' => 'hollin-mill', '--writes' => true]))
        ->toBe(0)
        ->and(Artisan::output())
        ->toContain('taken back')
        ->toContain('ok     field map: All that it names is there.');
    // A second one of the same name is refused, and the first one stays as it is.
    [$code, $says] = connected($this, $this->settings);
    expect($code)->toBe(3)->and($says)->toContain('There is a site "hollin-mill" already.');
});

it('says the same to the second of two who connect a site at one moment', function (): void {
    Site::creating(static fn (Site $site) => DB::table('sites')->insert($site->getAttributes()));
    try {
        [$code, $says] = connected($this, $this->settings);
    } finally {
        Site::flushEventListeners();
    }
    expect($code)->toBe(3)->and($says)->toContain('There is a site "hollin-mill" already.');
});

it('reads a site whose tables and columns have names as long as a database allows', function (): void {
    $long = static fn (string $word): string => str_pad($word, 64, '_of_a_site');
    $file = self::folder().'/long.sqlite';
    @unlink($file);
    $pdo = new PDO("sqlite:$file");
    $pdo->exec("create table {$long('pages')} (id integer primary key, {$long('body')} text)");
    $pdo->exec("insert into {$long('pages')} values (1, '<img src=\"/files/2014/2014-8.jpg\">')");
    [$code, $says] = connected($this, [
        ...$this->settings,
        'content' => ['engine' => 'SQLite', 'file' => $file],
    ]);
    expect($code)->toBe(0, $says);
    $site = Site::query()->where('slug', 'hollin-mill')->sole();
    expect(SecondSite::read($site)->problem)
        ->toBeNull()
        ->and(SecondSite::uses($site, static fn (string $kind): string => (string) strlen($kind)))
        ->toBe(["64|1|{$long('body')}|files/2014/2014-8.jpg"]);
});

it('writes nothing to a new site until its owner switches that on', function (): void {
    connected($this, $this->settings);
    $site = Site::query()->where('slug', 'hollin-mill')->sole();
    SecondSite::read($site);
    $count = static fn (): int => (int) SecondSite::maria()
        ->query("select count(*) from hm_node_text where body like '%2014-8%'")
        ->fetchColumn();
    $before = $count();
    $swap = fn (): int => Artisan::call('ylema:swap', [
        'site' => 'hollin-mill',
        'from' => 'files/2014/2014-8.jpg',
        'to' => 'files/2014/2014-9.jpg',
    ]);
    $swap();
    expect(Artisan::output())
        ->toContain('only read as yet')
        ->toContain('bin/ylema site hollin-mill --writes=yes')
        ->and($count())
        ->toBe($before);
    expect(Artisan::call('ylema:site', ['site' => 'hollin-mill', '--writes' => 'yes']))->toBe(0);
    $swap();
    expect($count())->toBeLessThan($before)->and($site->refresh()->writes)->toBeTrue();
    Artisan::call('ylema:undo', ['change' => (string) DB::table('changes')->where('site_id', $site->id)->max('id')]);
    expect($count())->toBe($before);
});

it('says what is wrong with a connection, and connects nothing', function (array $content, string $says): void {
    $settings = $this->settings;
    $settings['content'] = array_filter(
        [...$settings['content'], ...$content],
        static fn (mixed $v): bool => $v !== null,
    );
    [$code, $said] = connected($this, $settings);
    expect($said)
        ->toContain($says)
        ->not->toContain((string) getenv('MARIA_PASSWORD'))
        ->and($code)
        ->not->toBe(0)
        ->and(Site::query()->where('slug', 'hollin-mill')->exists())
        ->toBeFalse();
})->with([
    'a host that nobody knows' => [['host' => 'no-such-host.invalid'], 'No machine is known as "no-such-host.invalid"'],
    'a port where nothing listens' => [['port' => 1], 'Check that it runs'],
    'a wrong password' => [['password_from' => null, 'password' => 'wrong'], 'Check user, password and database name'],
    'a wrong database' => [['database' => 'nowhere'], 'Check user, password and database name'],
    'a word that means nothing' => [['engin' => 'x'], 'content.engin: nothing is called so here'],
    'an engine that is not read' => [['engine' => 'Abacus'], 'content.engine: one of'],
    'a variable that is not there' => [['password_from' => 'NO_SUCH_VARIABLE'], 'no such variable'],
]);

it('refuses a folder that is not there, and a map of another site', function (): void {
    [$code, $says] = connected($this, [...$this->settings, 'files' => '/nowhere/at/all']);
    expect($code)->toBe(3)->and($says)->toContain('There is no folder /nowhere/at/all');
    [$code, $says] = connected($this, $this->settings, ['--map' => base_path('standin/korrin.fieldmap.yaml')]);
    expect($code)
        ->toBe(4)
        ->and($says)
        ->toContain('has no table "media"')
        ->and(Site::query()->where('slug', 'hollin-mill')->exists())
        ->toBeFalse();
});

it('may be one who can only look: then it is read, and cannot be switched on', function (): void {
    $settings = $this->settings;
    $settings['content']['user'] = 'looker';
    [$code] = connected($this, $settings);
    expect($code)->toBe(0);
    expect(Artisan::call('ylema:site', ['site' => 'hollin-mill', '--writes' => 'yes']))
        ->toBe(4)
        ->and(Artisan::output())
        ->toContain('right to write: looker may not write')
        ->and(Site::query()->where('slug', 'hollin-mill')->sole()->writes)
        ->toBeFalse();
});

it('serves several folders at addresses of their own', function (): void {
    @mkdir(self::folder().'/root/css', 0o755, true);
    copy($this->folder.'/files/brand/favicon.png', self::folder().'/root/css/dot.png');
    $settings = [
        ...$this->settings,
        'files' => ['/' => self::folder().'/root', '/files/' => $this->folder.'/files'],
    ];
    [$code, $says] = connected($this, $settings);
    expect($code)->toBe(0, $says);
    $site = Site::query()->where('slug', 'hollin-mill')->sole();
    expect(SecondSite::read($site)->problem)
        ->toBeNull()
        ->and(MediaItem::query()->where('site_id', $site->id)->where('path', 'css/dot.png')->exists())
        ->toBeTrue()
        ->and(
            MediaItem::query()->where('site_id', $site->id)->where('path', 'files/2014/2014-8.jpg')->value('standing'),
        )
        ->toBe('live');
    $files = app(SiteOpener::class)->open($site)->files;
    $files->write('files/2014/new.txt', 'in its own folder');
    $files->move('files/2014/new.txt', 'css/new.txt');
    expect(file_get_contents(self::folder().'/root/css/new.txt'))
        ->toBe('in its own folder')
        ->and($files->exists('files/2014/new.txt'))
        ->toBeFalse()
        ->and(is_file($this->folder.'/files/2014/new.txt'))
        ->toBeFalse();
});

it('says that two sites keep their files in one place, and lets neither rest what the other uses', function (): void {
    connected($this, $this->settings);
    $mill = Site::query()->where('slug', 'hollin-mill')->sole();
    expect(SecondSite::read($mill)->problem)->toBeNull();
    // A folder of pages beside it, which shows none of the pictures, and whose files lie one folder deeper.
    file_put_contents("$this->folder/files/page.html", '<title>Beside</title>');
    file_put_contents("$this->folder/files/own.jpg", 'of its own');
    [$code, $says] = connected($this, [
        'name' => 'Beside',
        'address' => 'https://beside.example/',
        'content' => "$this->folder/files",
        'files' => "$this->folder/files",
    ]);
    expect($code)->toBe(0, $says)->and($says)->toContain('Files of “Hollin Mill” lie in the same place.');
    $beside = Site::query()->where('slug', 'beside')->sole();
    expect(SecondSite::read($beside)->problem)->toBeNull();
    $used = MediaItem::query()->where('site_id', $mill->id)->where('uses', '>', 0)->firstOrFail();
    $theirs = MediaItem::query()
        ->where('site_id', $beside->id)
        ->where('path', substr($used->path, strlen('files/')))
        ->sole();
    $proofs = (new Proofs($beside->id))->sheets([$theirs->id])[$theirs->id]['sheet'];
    expect($theirs->uses)
        ->toBe(0)
        ->and($theirs->verdict)
        ->toBe('needed')
        ->and(implode(' ', array_column($proofs->toArray(), 'sentence')))
        ->toContain('“Hollin Mill” keeps the same file, and uses it.');
    // A plan of the one says what it would do to the other; one that touches no file of theirs says nothing.
    $note = static fn (object $planner): string => implode(
        ' ',
        app(PlanDesk::class)->make($beside, $planner, null)->refresh()->outline['notes'],
    );
    expect($note(new MovePlanner(new MoveRequest($theirs->path, dirname($theirs->path).'/moved.jpg'))))
        ->toContain('Hollin Mill keeps its files in the same place, and shows 1 file that this changes.')
        ->and($note(new MovePlanner(new MoveRequest('own.jpg', 'owned.jpg'))))
        ->not->toContain('Hollin Mill');
});
