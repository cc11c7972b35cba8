<?php

declare(strict_types=1);

use App\Connect\Settings;
use App\Sites\FlysystemStore;
use App\Sites\Remote\RemoteFiles;
use Tests\App\Loopback;
use Tests\App\Sources\SshServer;
use Ylema\Sites\FileMissing;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\WriteRefused;

/*
 * Files of a site on another machine (a real sshd, as whoever runs the tests) and in an object store (a stand-in).
 */

beforeEach(function (): void {
    $this->folder = sys_get_temp_dir().'/ylema-remote-'.bin2hex(random_bytes(4));
    mkdir("$this->folder/site/media", 0o777, true);
    mkdir("$this->folder/shop/www/media", 0o777, true);
    $this->opened = null;
    $this->said = function (string $kind): array {
        if ($kind === 'sftp') {
            $this->opened = new SshServer($this->folder);

            return ['sftp' => $this->opened->said("$this->folder/site")];
        }
        $this->opened = new Loopback(dirname(__DIR__, 3).'/standin/public/s3.php', [
            'S3_FOLDER' => $this->folder,
            'S3_KEY' => 'known',
        ]);

        return ['s3' => [
            'bucket' => 'shop',
            'prefix' => 'www',
            'endpoint' => $this->opened->origin(),
            'key' => 'known',
            'secret' => 'secret',
        ]];
    };
    $this->open = fn (array $said): FlysystemStore => FlysystemStore::of(
        RemoteFiles::open(RemoteFiles::said($said, 'files', '/')),
        ['media/'],
    );
});

afterEach(function (): void {
    $this->opened?->end();
    shell_exec('rm -rf '.escapeshellarg($this->folder));
});

it('lists, reads, writes over, moves and deletes, and leaves nothing beside', function (string $kind): void {
    $store = ($this->open)(($this->said)($kind));
    $there = $this->folder.($kind === 'sftp' ? '/site' : '/shop/www');
    file_put_contents("$there/media/a.jpg", 'a');
    $store->write('media/new/ü b.jpg', 'one');
    $store->write('media/new/ü b.jpg', 'two');
    expect(file_get_contents("$there/media/new/ü b.jpg"))
        ->toBe('two')
        ->and(scandir("$there/media/new"))
        ->toBe(['.', '..', 'ü b.jpg'])
        ->and($store->read('media/new/ü b.jpg'))
        ->toBe('two')
        ->and($store->state('media/a.jpg')?->sha256)
        ->toBe(hash('sha256', 'a'))
        ->and($store->state('media/none.jpg'))
        ->toBeNull();
    $files = array_map(fn ($f) => [$f->path, $f->size], iterator_to_array($store->files(), false));
    sort($files);
    expect($files)->toBe([['media/a.jpg', 1], ['media/new/ü b.jpg', 3]]);
    expect(fn () => $store->move('media/a.jpg', 'media/new/ü b.jpg'))->toThrow(WriteRefused::class);
    $store->move('media/a.jpg', 'media/moved/a.jpg');
    $store->delete('media/new/ü b.jpg');
    expect(fn () => $store->read('media/a.jpg'))
        ->toThrow(FileMissing::class)
        ->and($store->read('media/moved/a.jpg'))
        ->toBe('a');
})->with(['sftp', 's3']);

it('gives a file its mode and time, and leaves those of one that it writes over', function (): void {
    $store = ($this->open)(($this->said)('sftp'));
    $file = "$this->folder/site/media/a.jpg";
    file_put_contents($file, 'a');
    chmod($file, 0o640);
    touch($file, 1_400_000_000);
    $was = $store->state('media/a.jpg');
    expect([$was?->mode, $was?->modified, $was?->owner])
        ->toBe([0o640, 1_400_000_000, posix_geteuid().':'.posix_getegid()]);
    $store->write('media/a.jpg', 'another');
    clearstatcache();
    expect(fileperms($file) & 0o7777)->toBe(0o640)->and(filemtime($file))->toBeGreaterThan(1_500_000_000);
    $store->write('media/a.jpg', 'a', $was);
    clearstatcache();
    expect([file_get_contents($file), fileperms($file) & 0o7777, filemtime($file)])->toBe(['a', 0o640, 1_400_000_000]);
});

it('writes nothing behind a link that came in between', function (): void {
    $store = ($this->open)(($this->said)('sftp'));
    $store->write('media/in/a.jpg', 'a');
    mkdir("$this->folder/outside");
    file_put_contents("$this->folder/outside/a.jpg", 'outside');
    rename("$this->folder/site/media/in", "$this->folder/site/media/in.before");
    symlink("$this->folder/outside", "$this->folder/site/media/in");
    $store->write('media/b.jpg', 'b');
    foreach ([
        fn () => $store->write('media/in/a.jpg', 'x'),
        fn () => $store->move('media/b.jpg', 'media/in/b.jpg'),
        fn () => $store->delete('media/in/a.jpg'),
    ] as $do) {
        expect($do)->toThrow(WriteRefused::class, 'leads out of the site');
    }
    expect(scandir("$this->folder/outside"))->toBe(['.', '..', 'a.jpg'])
        ->and(file_get_contents("$this->folder/outside/a.jpg"))->toBe('outside');
    // One that stays inside leads where it always led.
    unlink("$this->folder/site/media/in");
    symlink('in.before', "$this->folder/site/media/in");
    $store->write('media/in/a.jpg', 'x');
    expect(file_get_contents("$this->folder/site/media/in.before/a.jpg"))->toBe('x');
});

it('says what keeps it out', function (string $kind, array $otherwise, string $says): void {
    $said = ($this->said)($kind);
    $said[$kind] = [...$said[$kind], ...$otherwise];
    $store = ($this->open)($said);
    expect(fn () => iterator_to_array($store->files()))->toThrow(SourceUnavailable::class, $says);
})->with([
    'another key of the host' => ['sftp', ['fingerprint' => 'SHA256:another'], 'shows another key (SHA256:'],
    'another user' => ['sftp', ['user' => 'nobody-here'], 'does not let "nobody-here" in'],
    'nobody there' => ['sftp', ['port' => 1], 'does not answer on port 1'],
    'no such folder' => ['sftp', ['folder' => '/not/here'], 'There is no folder /not/here'],
    'another secret' => ['s3', ['key' => 'unknown'], 'InvalidAccessKeyId'],
    'no such bucket' => ['s3', ['bucket' => 'none'], 'NoSuchBucket'],
]);

it('keeps a file whole where the server cannot put another in its place', function (): void {
    $said = ($this->said)('sftp');
    $store = ($this->open)($said);
    $store->write('media/a.jpg', 'whole');
    // Nobody may write into the folder any more, so that no rename works.
    chmod("$this->folder/site/media", 0o555);
    try {
        expect(fn () => $store->write('media/a.jpg', 'another'))->toThrow(WriteRefused::class);
    } finally {
        chmod("$this->folder/site/media", 0o777);
    }
    expect(file_get_contents("$this->folder/site/media/a.jpg"))->toBe('whole');
})->skip(posix_geteuid() === 0, 'root may write everywhere');

it('takes them from settings, secrets from elsewhere, and says what is missing', function (): void {
    putenv('S3_SECRET_OF_TESTS=hidden');
    $of = static fn (array $files): Settings => Settings::fromArray([
        'address' => 'https://shop.example/',
        'content' => '/srv/shop',
        'files' => $files,
    ], '/');
    $s3 = ['s3' => ['bucket' => 'b', 'key' => 'k', 'secret_from' => 'S3_SECRET_OF_TESTS']];
    expect($of($s3)->connection['remote'])
        ->toBe(['kind' => 's3', 'bucket' => 'b', 'key' => 'k', 'secret' => 'hidden'])
        ->and($of(['/' => '/srv/www', '/up/' => $s3])->connection['roots'][0]['remote']['bucket'])
        ->toBe('b')
        ->and(fn () => $of(['s3' => ['bucket' => 'b']]))
        ->toThrow(InvalidArgumentException::class, 'files.s3.key: this is missing.')
        ->and(fn () => $of(['s3' => ['buket' => 'b', 'key' => 'k', 'secret' => 's']]))
        ->toThrow(InvalidArgumentException::class, 'files.s3.buket: nothing is called so here. Known: bucket')
        ->and(fn () => $of(['sftp' => ['host' => 'h', 'user' => 'u', 'folder' => '/www']]))
        ->toThrow(InvalidArgumentException::class, 'a password or a key belongs here')
        ->and(fn () => $of(['ftp' => ['host' => 'h']]))
        ->toThrow(InvalidArgumentException::class)
        ->and(fn () => Settings::fromArray(['address' => 'https://a.example', 'files' => $s3], '/'))
        ->toThrow(InvalidArgumentException::class, 'content: say where it is');
});
