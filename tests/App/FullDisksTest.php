<?php

declare(strict_types=1);

use App\Bytes\Marks;
use App\Bytes\Part;
use App\Bytes\Place;
use App\Bytes\Warnings;
use App\Changes\Journal;
use App\Media\Uploads;
use App\Models\ChangeState;
use App\Models\Plan;
use App\Models\PlanState;
use App\Models\ReadingState;
use App\Models\Role;
use App\Models\StepState;
use App\Plans\PlanDesk;
use App\Plans\PlanRefused;
use App\Reading\ReadSite;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Ylema\Plan\IdleQuestion;
use Ylema\Plan\RestingQuestion;
use Ylema\Retire\ArchivePlanner;
use Ylema\Retire\RestPlanner;
use Ylema\Retire\RestRequest;
use Ylema\Sites\WriteRefused;
use Ylema\Swap\Manner;

/*
 * Where there is no room any more: for the vault, the rest, bags, uploads, the index and logs. It is said, with the
 * place and what to do; nothing is lost, nothing is half done, and once there is room it goes on.
 */

/** Whatever this process writes ends after so many bytes of a file, in the middle of it. */
function withRoomFor(int $bytes, Closure $do): mixed
{
    pcntl_signal(SIGXFSZ, SIG_IGN);
    $was = posix_getrlimit();
    $hard = $was['hard filesize'] === 'unlimited' ? -1 : (int) $was['hard filesize'];
    posix_setrlimit(POSIX_RLIMIT_FSIZE, $bytes, $hard);
    try {
        return $do();
    } finally {
        posix_setrlimit(POSIX_RLIMIT_FSIZE, $hard, $hard);
    }
}

/** Each new row of a table is answered as PostgreSQL answers where its disk is full. */
function fillTable(string $table, string $state = '53100'): void
{
    DB::unprepared("create or replace function full_disk() returns trigger language plpgsql as \$\$ begin
        raise exception 'could not extend file: No space left on device' using errcode = '$state'; end \$\$;
        create trigger full_disk before insert on $table for each row execute function full_disk()");
}

function emptyTable(string $table): void
{
    DB::unprepared("drop trigger full_disk on $table");
}

/** @return list<string> what is in one of Ylema's own folders */
function keptIn(string $disk): array
{
    $files = Storage::disk($disk)->allFiles();
    sort($files);

    return $files;
}

it('says what the file system said, and what to do', function (): void {
    $warnings = new Warnings();
    $full = fopen('/dev/full', 'r+b');
    $warnings->during(static fn () => fwrite($full, 'x') && fflush($full));
    expect($warnings->advice())->toBe('its disk is full. Make room on it, then try again');
    $warnings->during(static fn () => file_put_contents('/proc/version', 'x'));
    expect($warnings->advice())->not->toBe('')->toContain('then try again');
    expect((new Warnings())->advice())->toContain('did not say why');
});

it('leaves what lay there where its bytes do not go in, are others, or cannot be placed', function (): void {
    $folder = self::folder().'/full';
    shell_exec('rm -rf '.escapeshellarg($folder));
    $place = new Place('rest', $folder);
    $place->write('a/b', 'old', hash('sha256', 'old'));
    $stream = fopen('php://temp', 'w+b');
    fwrite($stream, str_repeat('x', 300_000));
    rewind($stream);
    expect(fn () => withRoomFor(100_000, fn () => $place->write('a/b', $stream)))
        ->toThrow(WriteRefused::class, "The rest ($folder) could not be written: only 100000 bytes went in: it is")
        ->and(fn () => $place->write('a/b', 'new', hash('sha256', 'other')))
        ->toThrow(WriteRefused::class, 'not what was meant')
        ->and(fn () => $place->write('a', 'new'))
        ->toThrow(WriteRefused::class)
        ->and(fn () => $place->write('a/b/c', 'new'))
        ->toThrow(WriteRefused::class, 'its folder')
        ->and(fn () => $place->write('../out', 'new'))
        ->toThrow(WriteRefused::class, 'no path below')
        ->and(file_get_contents("$folder/a/b"))->toBe('old')
        ->and(scandir("$folder/".Place::PARTS))->toBe(['.', '..']);
});

it('sweeps what killed processes left, and nothing that somebody still writes', function (): void {
    $place = Place::of('vault');
    $place->write('00/x', 'x');
    $folder = Storage::disk('vault')->path(Place::PARTS);
    file_put_contents("$folder/dead".Part::ENDING, 'half');
    $handle = fopen("$folder/alive".Part::ENDING, 'x');
    flock($handle, LOCK_EX);
    expect(Artisan::call('ylema:recover'))->toBe(0)
        ->and(Artisan::output())->toContain('1 half-written file was left in the middle and taken away.')
        ->and(array_values(array_diff(scandir($folder), ['.', '..'])))->toBe(['alive'.Part::ENDING]);
    fclose($handle);
    unlink("$folder/alive".Part::ENDING);
    Storage::disk('vault')->delete('00/x');
});

it('takes no upload that it cannot keep, and says so to whoever sent it', function (): void {
    $this->touched();
    $before = keptIn('work');
    $bytes = $this->jpeg(1200, 800);
    $file = UploadedFile::fake()->createWithContent('x.jpg', $bytes);
    $send = fn () => $this->as(Role::Maintainer)->post(
        '/api/sites/korrin-bay/uploads',
        ['picture' => $file],
        ['Accept' => 'application/json'],
    );
    $said = withRoomFor(intdiv(strlen($bytes), 2), $send);
    expect([$said->status(), $said->json('type')])->toBe([409, '/problems/refused'])
        ->and($said->json('detail'))->toContain('could not be written', 'RLIMIT_FSIZE')
        ->and(keptIn('work'))->toBe($before)
        ->and($send()->status())->toBe(201);
});

it('makes no plan whose bytes the vault cannot keep, and makes it once there is room', function (): void {
    $this->touched();
    $before = keptIn('vault');
    $upload = $this->sent($this->jpeg(1400, 1000), 'new face.jpg');
    $make = fn (): Plan => $this->plan('people/tobin-vale.jpg', null, Manner::SameAddress, $upload);
    $why = '';
    try {
        withRoomFor(20_000, $make);
    } catch (PlanRefused $e) {
        $why = $e->getMessage();
    }
    expect($why)->toContain('The vault (', 'could not be written', 'then try again')
        ->and(array_filter(keptIn('vault'), Part::is(...)))->toBe([]);
    foreach (array_diff(keptIn('vault'), $before) as $kept) {
        expect(hash('sha256', (string) Storage::disk('vault')->get($kept)))->toBe(basename($kept));
    }
    expect($this->apply($make())->state)->toBe(ChangeState::Applied);
});

it('lays nothing to rest, and archives nothing, where there is no room', function (): void {
    $this->touched();
    $files = $this->fileHashes();
    $elsewhere = '/dev/shm/ylema-full-'.bin2hex(random_bytes(4));
    config(['filesystems.disks.rest.root' => $elsewhere]);
    Storage::forgetDisk('rest');
    app(Marks::class)->take(Place::of('rest'));
    $item = $this->item('archive/left-09.jpg');
    $plan = fn (): Plan => app(PlanDesk::class)->make(
        $this->site(),
        new RestPlanner(new RestRequest(new IdleQuestion(items: [$item->id]), true)),
        null,
    );
    try {
        $change = withRoomFor(500, fn () => app(Journal::class)->apply($plan(), null, '')->refresh());
        expect($change->state)->toBe(ChangeState::AppliedInPart)
            ->and($change->steps()->where('state', StepState::Refused)->value('message'))
            ->toContain('stays where it is (The rest (', 'went in')
            ->and($this->fileHashes())->toBe($files)
            ->and(DB::table('resting_files')->count())->toBe(0)
            ->and(array_filter(Storage::disk('rest')->allFiles(), Part::is(...)))->toBe([]);
        // With room, what was refused is done.
        expect(app(Journal::class)->retry($change)->refresh()->state)->toBe(ChangeState::Applied);
        DB::table('resting_files')->update(['until' => '2026-01-01']);
        $over = new RestingQuestion(over: '2026-06-01');
        $archive = app(PlanDesk::class)->make($this->site(), new ArchivePlanner($over), null);
        $change = withRoomFor(500, fn () => app(Journal::class)->apply($archive, null, '')->refresh());
        expect($change->steps()->where('state', StepState::Refused)->pluck('message')->implode(' '))
            ->toContain('everything rests on as before. The bags (', 'went in')
            ->and(DB::table('resting_files')->count())->toBeGreaterThan(0)
            ->and(app(Journal::class)->retry($change)->refresh()->state)->toBe(ChangeState::Applied)
            ->and(DB::table('resting_files')->count())->toBe(0);
    } finally {
        shell_exec('rm -rf '.escapeshellarg($elsewhere));
        Storage::forgetDisk('rest');
    }
});

it('says that the disk of the index is full: to a reading, to a plan, to a request, to a command', function (): void {
    $this->touched();
    $site = $this->site();
    fillTable('staged_records');
    $reading = app(ReadSite::class)->begin($site, null)->refresh();
    expect($reading->state)->toBe(ReadingState::Failed)
        ->and($reading->problem)->toContain('The disk of Ylema’s database is full');
    emptyTable('staged_records');
    fillTable('plan_steps');
    expect(fn () => $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'))
        ->toThrow(PlanRefused::class, 'The disk of Ylema’s database is full')
        ->and(Plan::query()->where('state', PlanState::Making)->count())->toBe(0);
    emptyTable('plan_steps');
    fillTable('plans');
    $said = $this->as(Role::Maintainer)->postJson('/api/sites/korrin-bay/plans', [
        'from' => $this->item('people/maren-oake.jpg')->id,
        'to' => $this->item('people/lise-holm.jpg')->id,
        'manner' => 'new-reference',
    ]);
    expect([$said->status(), $said->json('type'), $said->json('detail')])->toBe([
        503,
        '/problems/database-refuses',
        'The disk of Ylema’s database is full, so nothing was written. Make room on it, then try again.',
    ]);
    emptyTable('plans');
    fillTable('plans', '25006');
    expect(fn () => $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'))
        ->toThrow(Illuminate\Database\QueryException::class);
    emptyTable('plans');
    // And then all of it goes on.
    expect(app(ReadSite::class)->begin($site, null)->refresh()->state)->toBe(ReadingState::Done)
        ->and($this->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'))->state)
        ->toBe(ChangeState::Applied);
});

it('does and says everything where the log takes no more', function (): void {
    $this->touched();
    config(['logging.channels.single.path' => '/dev/full', 'logging.channels.own.channels' => ['single']]);
    app('log')->forgetChannel('own');
    app('log')->forgetChannel('single');
    report(new LogicException('a fault'));
    expect(is_link('/dev/full') || filetype('/dev/full') === 'char')->toBeTrue()
        ->and($this->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'))->state)
        ->toBe(ChangeState::Applied);
});
