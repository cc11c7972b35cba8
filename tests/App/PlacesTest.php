<?php

declare(strict_types=1);

use App\Bytes\Marks;
use App\Bytes\Place;
use App\Console\ExitCode;
use App\Health\Status;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\StepState;
use App\Plans\PlanDesk;
use App\Vault\Clearing;
use App\Vault\Vault;
use App\Vault\VaultTrouble;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Ylema\Plan\IdleQuestion;
use Ylema\Retire\RestPlanner;
use Ylema\Retire\RestRequest;
use Ylema\Sites\WriteRefused;

/*
 * The folders that an installation knows by a mark: another one is not written to, not cleared, and said to be another.
 */

beforeEach(function (): void {
    $this->touched();
    $this->vault = new Vault();
    $this->sha = $this->vault->put('kept before');
    $this->folder = rtrim(Storage::disk('vault')->path(''), '/');
    $this->mark = "$this->folder/".Marks::FILE;
    $this->own = (string) file_get_contents($this->mark);
});

afterEach(function (): void {
    file_put_contents($this->mark, $this->own);
});

/** @return array{string, int} what is said of the vault, and how `places` ends */
function saidOfVault(): array
{
    $code = Artisan::call('ylema:places');
    $said = array_column(Status::now()->toArray()['places'], 'wrong', 'place')['vault'];

    return [(string) $said, $code];
}

it('knows its own folder, whichever process asks', function (): void {
    app()->forgetInstance(Marks::class);
    expect($this->vault->put('kept after'))->toBe(hash('sha256', 'kept after'))
        ->and(saidOfVault())->toBe(['', ExitCode::DONE])
        ->and(strtok($this->own, "\n"))->toBe((string) DB::table('installation')->value('id'));
});

it('writes nothing to a folder of another installation, nor clears it', function (?string $mark, string $says): void {
    $mark === null ? unlink($this->mark) : file_put_contents($this->mark, $mark);
    $before = Storage::disk('vault')->allFiles();
    touch(Storage::disk('vault')->path(substr($this->sha, 0, 2)."/$this->sha"), time() - 9 * 86_400);
    foreach (['new bytes', 'kept before'] as $bytes) {
        expect(fn () => $this->vault->put($bytes))->toThrow(WriteRefused::class, $says);
    }
    expect((new Clearing())->run())->toBe([0, 0])
        ->and(Storage::disk('vault')->allFiles())->toBe($before)
        ->and(fn () => $this->vault->get(hash('sha256', 'never kept')))->toThrow(VaultTrouble::class, $says)
        ->and(saidOfVault()[0])->toContain($says)
        ->and(saidOfVault()[1])->toBe(ExitCode::NO)
        ->and(array_column(Status::now()->troubles(), 'about'))->toContain('place: vault');
    expect(Artisan::call('ylema:places', ['--take' => 'attic']))->toBe(ExitCode::WRONG)
        ->and(Artisan::call('ylema:places', ['--take' => 'vault']))->toBe(ExitCode::DONE)
        ->and($this->vault->put('new bytes'))->toBe(hash('sha256', 'new bytes'));
})->with([
    'its mark is another' => ["8d3c7f0e-0000-4000\n", 'belongs to another installation of Ylema (8d3c7f0e-0000-4000;'],
    'its mark is empty' => ['', 'belongs to another installation'],
    'it was marked, and has none' => [null, 'its disk is not mounted'],
]);

it('takes a mark that it cannot read for none of its own, also where it never wrote', function (): void {
    DB::table('places')->delete();
    app(Marks::class)->forget();
    file_put_contents($this->mark, "another\n");
    chmod($this->mark, 0);
    try {
        expect(fn () => $this->vault->put('new bytes'))->toThrow(WriteRefused::class, 'cannot be read by this user')
            ->and(saidOfVault()[1])->toBe(ExitCode::NO);
    } finally {
        chmod($this->mark, 0o600);
    }
    expect(file_get_contents($this->mark))->toBe("another\n");
})->skip(posix_geteuid() === 0, 'root may read everything');

it('lays nothing to rest in a folder of another installation, and gives nothing back from there', function (): void {
    $files = $this->fileHashes();
    $mark = Storage::disk('rest')->path(Marks::FILE);
    Place::of('rest')->write('x', 'x');
    Storage::disk('rest')->delete('x');
    $own = (string) file_get_contents($mark);
    $rest = fn (): Change => $this->apply(app(PlanDesk::class)->make(
        $this->site(),
        new RestPlanner(new RestRequest(new IdleQuestion(items: [$this->item('archive/left-09.jpg')->id]), true)),
        null,
    ));
    file_put_contents($mark, "another\n");
    $change = $rest();
    $now = $this->fileHashes();
    file_put_contents($mark, $own);
    expect($now)->toBe($files)
        ->and($change->steps()->where('state', StepState::Refused)->value('message'))->toContain('belongs to another');
    $this->undo($change);
    $change = $rest();
    file_put_contents($mark, "another\n");
    $undone = $this->undo($change);
    file_put_contents($mark, $own);
    expect($undone->state)->toBe(ChangeState::UndoneInPart)
        ->and($this->undo($undone)->state)->toBe(ChangeState::Undone)
        ->and($this->fileHashes())->toBe($files);
});

it('marks the bags that a site keeps in a folder of its own', function (): void {
    $folder = self::folder().'/own-bags';
    shell_exec('rm -rf '.escapeshellarg($folder));
    mkdir($folder);
    $this->site()->update(['keeping' => ['bags' => $folder]]);
    $place = collect(Place::all())->firstOrFail(static fn (Place $one): bool => $one->root->folder === $folder);
    $place->write('x/bagit.txt', 'x');
    unlink("$folder/".Marks::FILE);
    expect($place->key())->toBe("bags-{$this->site()->id}")
        ->and(fn () => $place->write('y/bagit.txt', 'x'))->toThrow(WriteRefused::class, 'is not mounted')
        ->and(is_dir("$folder/y"))->toBeFalse();
});
