<?php

declare(strict_types=1);

use App\Changes\Journal;
use App\Media\Uploads;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\StepState;
use App\Plans\MoveAsked;
use App\Plans\PlanDesk;
use App\Reading\ReadSite;
use App\Vault\Vault;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Ylema\Move\MovePlanner;
use Ylema\Plan\IdleQuestion;
use Ylema\Plan\RestingQuestion;
use Ylema\Retire\RestorePlanner;
use Ylema\Retire\RestoreRequest;
use Ylema\Retire\RestPlanner;
use Ylema\Retire\RestRequest;

/*
 * Steps that wait for each other: no record names what was not written, and no address is promised that is not there.
 */

beforeEach(fn () => $this->touched());

/** @return list<string> what its steps of one kind came to, with why, each once */
function cameTo(Change $change, string $kind): array
{
    return $change->steps()->where('kind', $kind)->orderBy('position')->get()
        ->map(static fn ($step): string => $step->state->value.($step->message === null ? '' : ": $step->message"))
        ->unique()->values()->all();
}

/** A rule of the content's database that lets nobody write. */
function nobodyWrites(PDO $content, string $table, string $when): void
{
    $content->exec(
        "create or replace function no() returns trigger language plpgsql as 'begin if $when then raise exception "
            ."''it is locked''; end if; return coalesce(new, old); end'",
    );
    $content->exec(
        "create trigger no before insert or update or delete on $table for each row execute function no()",
    );
}

it('points no record at a file that was not written', function (): void {
    $before = $this->contentDigest();
    $upload = app(Uploads::class)->keep($this->jpeg(1200, 800), 'Light house.jpg', $this->site());
    $plan = $this->plan('people/maren-oake.jpg', null, upload: $upload['token']);
    $step = $plan->steps()->where('path', 'media/people/light-house.jpg')->firstOrFail()->step();
    $kept = substr($step->after->sha256, 0, 2)."/{$step->after->sha256}";
    $bytes = Storage::disk('vault')->get($kept);
    Storage::disk('vault')->delete($kept);
    $change = $this->apply($plan);
    $why = 'refused: Not done, because media/people/light-house.jpg was not written: ';
    expect($change->state)->toBe(ChangeState::AppliedInPart)
        ->and($this->contentDigest())->toBe($before)
        ->and(cameTo($change, 'add-media'))->toHaveCount(1)
        ->and(cameTo($change, 'add-media')[0])->toStartWith($why)
        ->and(cameTo($change, 'edit-record'))->toHaveCount(1)
        ->and(cameTo($change, 'edit-record')[0])->toStartWith($why);

    // With the bytes back, all of it is done, and all of it undone.
    Storage::disk('vault')->put($kept, (string) $bytes);
    $change = app(Journal::class)->retry($change)->refresh();
    expect($change->state)->toBe(ChangeState::Applied)
        ->and($this->item('people/light-house.jpg')->uses)->toBe(25)
        ->and($this->undo($change)->state)->toBe(ChangeState::Undone)
        ->and($this->contentDigest())->toBe($before);
});

it('points records at those sizes alone that were written', function (): void {
    $upload = app(Uploads::class)->keep($this->jpeg(1200, 800), 'Light house.jpg', $this->site());
    $plan = $this->plan('people/maren-oake.jpg', null, upload: $upload['token']);
    $step = $plan->steps()->where('path', 'media/people/light-house.w150.jpg')->firstOrFail()->step();
    Storage::disk('vault')->delete(substr($step->after->sha256, 0, 2)."/{$step->after->sha256}");
    $change = $this->apply($plan);
    // The row lists all its sizes, so it is not made either.
    expect(cameTo($change, 'add-media')[0])->toContain('light-house.w150.jpg was not written')
        ->and(self::contentValue("select count(*) from entries where body like '%light-house.w150%'"))->toBe('0');
});

it('moves no file whose old address would lead nowhere', function (): void {
    $site = self::folder().'/site';
    $before = [$this->contentDigest(), $this->fileHashes()];
    nobodyWrites(self::content(), 'redirects', "new.old_path like ''%maren-oake.w160%''");
    $request = MoveAsked::of($this->site(), 'media/people', 'media/staff/people', true);
    $change = $this->apply(app(PlanDesk::class)->make($this->site(), new MovePlanner($request), null));
    expect($change->state)->toBe(ChangeState::AppliedInPart)
        ->and(is_file("$site/media/people/maren-oake.w160.jpg"))->toBeTrue()
        ->and(is_file("$site/media/staff/people/maren-oake.w160.jpg"))->toBeFalse()
        ->and(is_file("$site/media/staff/people/lise-holm.jpg"))->toBeTrue()
        ->and(cameTo($change, 'move-file')[1])
        ->toStartWith('refused: Not done, because media/people/maren-oake.w160.jpg sends nobody on: ')
        // Its row lists that size, and stays; what names the others follows them.
        ->and(self::contentValue("select count(*) from media where path = 'media/people/maren-oake.jpg'"))->toBe('1')
        ->and(self::contentValue("select count(*) from entries where body like '%staff/people/maren-oake.w160%'"))
        ->toBe('0');
    self::content()->exec('drop trigger no on redirects');
    expect($this->undo($change)->state)->toBe(ChangeState::Undone)
        ->and([$this->contentDigest(), $this->fileHashes()])->toBe($before);
});

it('takes a move back as a whole, or leaves it as it is', function (): void {
    $request = MoveAsked::of($this->site(), 'media/people/maren-oake.jpg', 'media/people/maren.jpg', true);
    $change = $this->apply(app(PlanDesk::class)->make($this->site(), new MovePlanner($request), null));
    app(ReadSite::class)->begin($this->site(), null);
    $moved = [$this->fileHashes(), DB::table('media_references')->where('outcome', 'like', 'missing%')->count()];
    self::content()->exec("update entries set body = body || ' later' where id = 103");
    $change = $this->undo($change);
    app(ReadSite::class)->begin($this->site(), null);
    // One record could not follow, so that the file stays, and with it all that names it there.
    expect($change->state)->toBe(ChangeState::UndoneInPart)
        ->and([$this->fileHashes(), DB::table('media_references')->where('outcome', 'like', 'missing%')->count()])
        ->toBe($moved)
        ->and($change->steps()->where('kind', 'redirect')->where('state', StepState::Undone)->count())->toBe(0)
        ->and(self::contentValue("select new_path from redirects where old_path = '/media/people/maren-oake.jpg'"))
        ->toBe('/media/people/maren.jpg')
        ->and(cameTo($change, 'move-file')[0])->toContain('which was not taken back: the post');
    // Once that record is as it was left, all of it goes back.
    self::content()->exec("update entries set body = regexp_replace(body, ' later$', '') where id = 103");
    expect($this->undo($change)->state)->toBe(ChangeState::Undone)
        ->and(is_file(self::folder().'/site/media/people/maren-oake.jpg'))->toBeTrue();
});

it('gives no damaged bytes back, and leaves their row with them', function (): void {
    $path = 'media/archive/left-09.jpg';
    $request = new RestRequest(new IdleQuestion(items: [$this->item('archive/left-09.jpg')->id]), true);
    $change = $this->apply(app(PlanDesk::class)->make($this->site(), new RestPlanner($request), null));
    expect($change->state)->toBe(ChangeState::Applied)
        ->and(self::contentValue('select count(*) from media where path = ?', $path))->toBe('0');
    $resting = DB::table('resting_files')->where('path', $path)->first();
    $name = hash('sha256', "$path\0".trim((string) $resting->sha256));
    $kept = Storage::disk('rest')->path("{$this->site()->id}/".substr($name, 0, 2)."/$name");
    $bytes = (string) file_get_contents($kept);
    $sha = trim((string) $resting->sha256);
    Storage::disk('vault')->delete(substr($sha, 0, 2)."/$sha");
    // Another file of that name: the inode may be one that all tests share. In the end it has its time again.
    $time = (int) filemtime($kept);
    unlink($kept);
    file_put_contents($kept, substr_replace($bytes, '????', 500, 4));

    $change = $this->undo($change);
    $at = self::folder()."/site/$path";
    expect($change->state)->toBe(ChangeState::UndoneInPart)
        ->and(is_file($at))->toBeFalse()
        ->and(self::contentValue('select count(*) from media where path = ?', $path))->toBe('0')
        ->and($change->steps()->where('path', $path)->where('kind', 'rest-file')->value('message'))
        ->toContain('are damaged', 'No other copy')
        ->and(cameTo($change, 'remove-media')[0])->toContain('was not taken back: the resting bytes');
    // A restore is refused in the same words, and its row does not come back alone either; a copy is named.
    app(Vault::class)->put($bytes);
    $ask = new RestorePlanner(new RestoreRequest(new RestingQuestion([(int) $resting->id])));
    $restore = $this->apply(app(PlanDesk::class)->make($this->site(), $ask, null));
    expect(cameTo($restore, 'wake-file')[0])->toContain('in the vault ('.substr($sha, 0, 2)."/$sha)")
        ->and(cameTo($restore, 'add-media')[0])->toStartWith("refused: Not done, because $path did not come back");

    unlink($kept);
    file_put_contents($kept, $bytes);
    touch($kept, $time);
    expect($this->undo($change)->state)->toBe(ChangeState::Undone)
        ->and(filemtime($at))->toBe($time)
        ->and(file_get_contents($at))->toBe($bytes)
        ->and(self::contentValue('select count(*) from media where path = ?', $path))->toBe('1');
});
