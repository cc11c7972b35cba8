<?php

declare(strict_types=1);

use App\Models\Site;
use Illuminate\Support\Facades\DB;
use Symfony\Component\Process\Process;
use Tests\App\Backup\OtherInstallation;

/*
 * A backup holds all that Ylema knows and keeps. It is proved by another installation that takes it back, and undoes
 * there what was done here.
 */

beforeEach(function (): void {
    $this->folder = self::folder().'/backup';
    shell_exec('rm -rf '.escapeshellarg($this->folder));
    mkdir($this->folder);
    $this->file = "$this->folder/ylema.tar";
    $this->backup = fn (): array => OtherInstallation::said(OtherInstallation::ofTests('ylema:backup', $this->file));
});

it('is taken back by another installation, which then undoes what was done here', function (): void {
    $before = [$this->contentDigest(), $this->fileHashes()];
    $change = $this->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'));
    expect($this->contentDigest())->not->toBe($before[0]);
    [$code, $says] = ($this->backup)();
    expect($code)->toBe(0, $says)->and($says)->toContain('keep it as you keep those')
        ->and(fileperms($this->file) & 0777)->toBe(0600)
        ->and(glob("$this->folder/*"))->toBe([$this->file])
        ->and(glob(storage_path('app/backup/*')))->toBe([]);

    $other = new OtherInstallation("$this->folder/other");
    [$code, $says] = $other->run('ylema:from-backup', $this->file);
    expect($code)->toBe(0, $says)->and($says)->toContain('is taken back');
    foreach (['records', 'media_items', 'media_references', 'plan_steps', 'users'] as $table) {
        expect($other->value("select count(*) from $table"))
            ->toBe((string) DB::selectOne("select count(*) as n from $table")->n, $table);
    }
    // Its secrets are sealed with its own key, and open.
    $sealed = (string) Site::query()->toBase()->where('slug', 'korrin-bay')->value('connection');
    expect($other->value("select connection from sites where slug = 'korrin-bay'"))->not->toBe($sealed);
    [$code, $says] = $other->run('ylema:undo', (string) $change->id);
    expect($code)->toBe(0, $says)->and([$this->contentDigest(), $this->fileHashes()])->toBe($before);

    [$code, $says] = $other->run('ylema:from-backup', $this->file);
    expect($code)->toBe(4)->and($says)->toContain('has sites already');
    [$code, $says] = $other->run('ylema:from-backup', $this->file, '--over');
    expect($code)->toBe(0, $says)
        ->and($other->value("select state from changes where id = $change->id"))
        ->toBe('applied')
        ->and(glob($other->file('storage/app/vault/.before-*')))
        ->toHaveCount(1);
});

it('changes nothing when a backup is not whole', function (Closure $spoil, string $says): void {
    expect(($this->backup)()[0])->toBe(0);
    $other = new OtherInstallation("$this->folder/other");
    $busy = $spoil($this->file, $other);
    [$code, $said] = $other->run('ylema:from-backup', $this->file);
    expect($code)->toBe(4)->and($said)->toContain($says)
        ->and($other->value('select count(*) from sites'))->toBe('0')
        ->and($other->value('select count(*) from migrations'))->not->toBe('0')
        ->and(glob($other->file('storage/app/backup/*')))->toBe([]);
})->with([
    'cut short' => [
        static fn (string $file) => file_put_contents($file, substr(file_get_contents($file), 0, -20_000)),
        'only the beginning of one',
    ],
    'something else' => [
        static fn (string $file) => file_put_contents($file, str_repeat('no backup ', 1000)),
        'is no backup of Ylema',
    ],
    'another byte' => [
        static function (string $file): void {
            $bytes = file_get_contents($file);
            // Well inside of the database's copy.
            $at = strpos($bytes, 'PGDMP') + 40_000;
            $bytes[$at] = chr(ord($bytes[$at]) ^ 1);
            file_put_contents($file, $bytes);
        },
        '"database.dump" is damaged',
    ],
    'of a newer version' => [
        static function (string $file): void {
            // The name of a table's change that this version has never heard of, of the same length.
            $bytes = file_get_contents($file);
            $bytes = str_replace('2026_12_01_000000_ways_in', '2099_12_01_000000_ways_in', $bytes, $count);
            $about = substr($bytes, strpos($bytes, '{'), strpos($bytes, "\n}") + 2 - strpos($bytes, '{'));
            $old = str_replace('2099_', '2026_', $about);
            $bytes = str_replace(hash('sha256', $old), hash('sha256', $about), $bytes);
            file_put_contents($file, $bytes);
        },
        'made by a newer Ylema',
    ],
    'a file that its list does not name' => [
        static function (string $file): void {
            $folder = sys_get_temp_dir().'/ylema-more-'.bin2hex(random_bytes(4));
            mkdir("$folder/files/vault/aa", 0o777, true);
            file_put_contents("$folder/files/vault/aa/more", 'x');
            shell_exec("tar --append --file=$file --directory=$folder files/vault/aa/more; rm -rf $folder");
        },
        'its list does not name',
    ],
    'a link out of its folders' => [
        static function (string $file): void {
            $folder = sys_get_temp_dir().'/ylema-more-'.bin2hex(random_bytes(4));
            mkdir("$folder/files/vault", 0o777, true);
            symlink('/etc', "$folder/files/vault/out");
            shell_exec("tar --append --file=$file --directory=$folder files/vault/out; rm -rf $folder");
        },
        'its list does not name',
    ],
    'others at work' => [
        static fn (string $file, OtherInstallation $other): PDO => $other->database(),
        'other connections work on this database',
    ],
]);

it('says what is wrong with where it is to lie, and leaves nothing there', function (): void {
    [$code, $says] = OtherInstallation::said(OtherInstallation::ofTests('ylema:backup', '/nowhere/at/all.tar'));
    expect($code)->toBe(4)->and($says)->toContain('There is no folder /nowhere/at');
    [$code, $says] = OtherInstallation::said(OtherInstallation::ofTests('ylema:backup', '/dev/full/x'));
    expect($code)->toBe(4)->and(glob(storage_path('app/backup/*')))->toBe([]);
    [$code] = OtherInstallation::said(OtherInstallation::ofTests('ylema:backup', $this->file, '--keep=2'));
    expect($code)->toBe(2);
});

it('says what filled up or was forbidden while it was written, and leaves nothing there', function (
    string $shell,
    string $to,
    string $says,
): void {
    $own = OtherInstallation::ofTests('ylema:backup', $to === '' ? $this->file : $to);
    $process = Process::fromShellCommandline(
        str_replace('BACKUP', $own->getCommandLine(), $shell),
        $own->getWorkingDirectory(),
        $own->getEnv(),
    );
    [$code, $said] = OtherInstallation::said($process);
    expect($code)
        ->toBe(4)
        ->and($said)
        ->toContain($says)
        ->and(glob("$this->file*"))
        ->toBe([])
        ->and(glob(storage_path('app/backup/*')))
        ->toBe([]);
})->with([
    'no room behind the pipe' => ['BACKUP > /dev/full', '-', 'took no more of it'],
    'no file as large' => ['ulimit -f 20; BACKUP', '', 'may not write files as large as that'],
]);

it('writes to standard output, for whoever passes it on', function (): void {
    $process = OtherInstallation::ofTests('ylema:backup', '-');
    expect($process->run())->toBe(0, $process->getErrorOutput());
    file_put_contents($this->file, $process->getOutput());
    $other = new OtherInstallation("$this->folder/other");
    [$code, $says] = $other->run('ylema:from-backup', $this->file);
    expect($code)->toBe(0, $says);
});

it('keeps as many in a folder as it is told to', function (): void {
    foreach (['20260101T000000Z', '20260102T000000Z', '20260103T000000Z'] as $day) {
        touch("$this->folder/ylema-$day.tar");
    }
    touch("$this->folder/something-else.tar");
    [$code, $says] = OtherInstallation::said(
        OtherInstallation::ofTests('ylema:backup', $this->folder, '--keep=2'),
    );
    $left = array_map(basename(...), glob("$this->folder/*"));
    expect($code)->toBe(0, $says)->and($left)->toHaveCount(3)->toContain('something-else.tar')
        ->toContain('ylema-20260103T000000Z.tar');
});

it('waits for the batch that a change is at, and no longer', function (): void {
    $change = new PDO(
        'pgsql:host='.config('database.connections.pgsql.host').';port='.config('database.connections.pgsql.port')
            .';dbname='.config('database.connections.pgsql.database'),
        config('database.connections.pgsql.username'),
        config('database.connections.pgsql.password'),
    );
    $change->query('select pg_advisory_lock_shared(22871, 0)');
    $backup = OtherInstallation::ofTests('ylema:backup', $this->file);
    $backup->start();
    while (waiting() === 0 && $backup->isRunning()) {
        usleep(100_000);
    }
    expect(waiting())->toBe(1)->and($backup->isRunning())->toBeTrue()->and(file_exists($this->file))->toBeFalse();
    $change->query('select pg_advisory_unlock_shared(22871, 0)');
    expect($backup->wait())->toBe(0)->and(file_exists($this->file))->toBeTrue();
});

function waiting(): int
{
    return (int) DB::selectOne(
        "select count(*) as n from pg_locks where locktype = 'advisory' and not granted"
            .' and database = (select oid from pg_database where datname = current_database())',
    )->n;
}
