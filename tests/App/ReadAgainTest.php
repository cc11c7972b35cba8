<?php

declare(strict_types=1);

use App\Models\Reading;
use App\Models\ReadingState;
use App\Models\Role;
use App\Reading\FinishReading;
use App\Reading\PrepareReading;
use App\Reading\ReadChunk;
use App\Reading\ReadSite;
use App\Reading\RefreshIndex;
use App\Support\WorkLock;
use Illuminate\Bus\UniqueLock;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

/*
 * What a reading makes of a site that changed in other ways than its records, and of workers that died.
 */

/** A map, an address or a file as it is now, in the index. */
function readNow(object $test, bool $acceptLoss = false): Reading
{
    app(ReadSite::class)->begin($test->site(), null, $acceptLoss);

    return $test->site()->readings()->orderByDesc('id')->firstOrFail();
}

beforeEach(function (): void {
    $this->touched();
});

it('takes up a changed field map, former address, alias or pattern of names', function (
    Closure $change,
    Closure $holds,
): void {
    expect($holds->call($this))->toBeFalse();
    $change->call($this, $this->site());
    readNow($this);
    expect($holds->call($this))->toBeTrue()->and(readNow($this)->totals['changed'])->toBe(0);
})->with([
    'a field that is read no more' => [
        fn ($site) => $site->update([
            'field_map' => str_replace('      blocks: {', '      # blocks: {', $site->field_map),
        ]),
        fn (): bool => ! DB::table('media_references')->where('field', 'blocks')->exists(),
    ],
    'a role' => [
        fn ($site) => $site->update([
            'field_map' => str_replace('role: banner picture', 'role: sponsor', $site->field_map),
        ]),
        fn (): bool => DB::table('media_references')->where('role', 'sponsor')->count() === 24,
    ],
    'another former address' => [
        fn ($site) => $site->update(['former' => ['https://nowhere.example/']]),
        fn (): bool => ! DB::table('media_references')->where('outcome', 'former-address')->exists(),
    ],
    'an alias' => [
        fn ($site) => $site->update(['aliases' => ['https://pics.shorelog.example/']]),
        fn (): bool => ! DB::table('media_references')->where('outcome', 'foreign-host')->exists(),
    ],
    'a pattern of names' => [
        fn ($site) => $site->update([
            'field_map' => str_replace('{name}.w{width}.{ext}', '{name}--{width}.{ext}', $site->field_map),
        ]),
        fn (): bool => DB::table('media_references')->where('outcome', 'missing-rendition')->count() === 0,
    ],
]);

it('knows again what a file that changes, empties or comes back is', function (): void {
    $path = self::folder().'/site/media/people/maren-oake.w160.jpg';
    $outcomes = fn (): array => DB::table('media_references as m')
        ->join('addresses as a', 'a.id', '=', 'm.address_id')
        ->where('a.asked', 'media/people/maren-oake.w160.jpg')
        ->distinct()
        ->pluck('m.outcome')
        ->sort()
        ->values()
        ->all();
    $bytes = (string) file_get_contents($path);
    $whole = $outcomes();
    $broken = $this->item('people/maren-oake.jpg')->broken;
    unlink($path);
    file_put_contents($path, '');
    readNow($this);
    expect($outcomes())
        ->toBe(['empty-file'])
        ->and($this->item('people/maren-oake.jpg')->broken)
        ->toBeGreaterThan($broken);
    // As many files as before: one went, another came.
    unlink($path);
    file_put_contents(dirname($path).'/another.jpg', $bytes);
    readNow($this);
    expect($outcomes())->toBe(['missing-rendition']);
    rename(dirname($path).'/another.jpg', $path);
    readNow($this);
    expect($outcomes())->toBe($whole)->and($this->item('people/maren-oake.jpg')->broken)->toBe($broken);
});

it('finds what an id, a key or a token leads to that is not there', function (): void {
    $featured = self::contentValue('select featured_id from entries where featured_id is not null and id = 102');
    self::content()->exec('update entries set featured_id = 99999 where id = 105');
    self::content()->exec("update entries set body = body || '%slot:nowhere%' where id = 106");
    unlink(self::folder().'/site/'.self::contentValue('select path from media where id = ?', $featured));
    readNow($this);
    $of = fn (string $key): array => DB::table('media_references as m')
        ->join('records as r', 'r.id', '=', 'm.record_id')
        ->where('r.key', $key)
        ->where('r.kind', 'post')
        ->pluck('m.outcome')
        ->all();
    expect($of('105'))
        ->toContain('missing-item')
        ->and($of('106'))
        ->toContain('missing-record')
        ->and($of('102'))
        ->toContain('missing-file');
    $families = array_column(
        $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/findings')->assertOk()->json('families'),
        null,
        'cause',
    );
    expect($families['missing-item']['references'])
        ->toBe(1)
        ->and($families['missing-item']['sentence'])
        ->toContain('media list')
        ->and($families['missing-record']['sample'])
        ->toBe('nowhere');
});

it('resolves anew when only rows of the media list moved', function (): void {
    self::content()->exec("update entries set body = body || '<img src=\"/media/people/small.jpg\">' where id = 110");
    readNow($this);
    $outcome = fn (): string => (string) DB::table('addresses')
        ->where('asked', 'media/people/small.jpg')
        ->value('outcome');
    expect($outcome())->toBe('missing-file');
    self::content()->exec(
        "update media set renditions = '[\"media/people/small.jpg\"]' where path = 'media/people/lise-holm.jpg'",
    );
    readNow($this);
    expect($outcome())->toBe('missing-rendition');
});

it('stops with a question where a folder is suddenly empty, and loses nothing', function (): void {
    $before = DB::table('files')->count();
    rename(self::folder().'/site/media', self::folder().'/away');
    mkdir(self::folder().'/site/media');
    $reading = readNow($this);
    expect($reading->state)
        ->toBe(ReadingState::Failed)
        ->and($reading->problem)
        ->toContain('Is it mounted?')
        ->and(DB::table('files')->count())
        ->toBe($before);
    // A person says that they are gone.
    $this->as(Role::Maintainer)
        ->postJson('/api/sites/korrin-bay/readings', ['accept_loss' => true])
        ->assertAccepted();
    expect(DB::table('files')->count())->toBe(0);
    rmdir(self::folder().'/site/media');
    rename(self::folder().'/away', self::folder().'/site/media');
    readNow($this);
    expect(DB::table('files')->count())->toBe($before);
});

it('follows a link that stays inside, and lists what it does not open', function (): void {
    $media = self::folder().'/site/media';
    symlink('people/maren-oake.jpg', "$media/linked.jpg");
    symlink('people', "$media/faces");
    symlink('..', "$media/people/round");
    symlink('/etc/hostname', "$media/outside.txt");
    symlink('nowhere', "$media/dangling.jpg");
    posix_mkfifo("$media/pipe", 0o600);
    $reading = readNow($this);
    $unread = array_column($reading->unread, 'why', 'path');
    expect($reading->state)
        ->toBe(ReadingState::Done)
        ->and(DB::table('files')->where('path', 'media/linked.jpg')->exists())
        ->toBeTrue()
        ->and(DB::table('files')->where('path', 'media/faces/tobin-vale.jpg')->exists())
        ->toBeTrue()
        ->and(DB::table('files')->where('path', 'like', '%round/people/round%')->exists())
        ->toBeFalse()
        ->and($unread['media/outside.txt'])
        ->toContain('leads out')
        ->and($unread['media/dangling.jpg'])
        ->toContain('nowhere')
        ->and($unread['media/pipe'])
        ->toContain('fifo');
    foreach (['linked.jpg', 'faces', 'people/round', 'outside.txt', 'dangling.jpg', 'pipe'] as $name) {
        unlink("$media/$name");
    }
});

it('takes up a reading whose worker died, at each of its steps', function (): void {
    Queue::fake();
    $reading = app(ReadSite::class)->begin($this->site(), null);
    Queue::assertPushed(PrepareReading::class, 1);
    // It may just be waiting; only after a while is it asked for again.
    expect(app(ReadSite::class)->recover())->toBe(0);
    DB::table('readings')
        ->where('id', $reading->id)
        ->update(['started_at' => now()->subMinute()]);
    // As long as it waits in the queue, it is not put there again.
    app(ReadSite::class)->recover();
    Queue::assertPushed(PrepareReading::class, 1);
    // A worker took it from there, and died.
    (new UniqueLock(Cache::driver()))->release(new PrepareReading($reading->id));
    app(ReadSite::class)->recover();
    Queue::assertPushed(PrepareReading::class, 2);
    app(ReadSite::class)->prepare($reading);
    $chunk = $reading->chunks()->firstOrFail();
    $pushed = Queue::pushed(ReadChunk::class)->count();
    expect($pushed)->toBe($reading->chunks()->count());
    // Begun, and its lock is free: the worker is dead. One that holds its lock is not.
    $chunk->update(['begun' => true]);
    app(ReadSite::class)->recover();
    expect(
        Queue::pushed(ReadChunk::class)->filter(fn (ReadChunk $job): bool => $job->chunkId === $chunk->id),
    )->toHaveCount(2);
    $lock = WorkLock::take(WorkLock::CHUNK, $chunk->id);
    app(ReadSite::class)->recover();
    expect(
        Queue::pushed(ReadChunk::class)->filter(fn (ReadChunk $job): bool => $job->chunkId === $chunk->id),
    )->toHaveCount(2);
    $lock?->release();
    foreach ($reading->chunks()->get() as $each) {
        app(ReadSite::class)->chunk($each);
    }
    // All is read, but the last step was lost.
    Queue::fake();
    app(ReadSite::class)->recover();
    Queue::assertPushed(FinishReading::class, 1);
    app(ReadSite::class)->finish($reading->refresh());
    expect($reading->refresh()->state)->toBe(ReadingState::Done);
});

it('clears what a dead refresh left, and does not wait for it', function (): void {
    $dead = Reading::query()->create([
        'site_id' => $this->site()->id,
        'state' => ReadingState::Landing,
        'stage' => '',
        'started_at' => now(),
        'totals' => ['partial' => true],
    ]);
    DB::table('staged_files')->insert([
        'reading_id' => $dead->id,
        'path' => 'media/x.jpg',
        'fold' => '',
        'name_fold' => '',
        'size' => 1,
        'modified' => 1,
    ]);
    expect(readNow($this)->state)
        ->toBe(ReadingState::Done)
        ->and(Reading::query()->whereKey($dead->id)->exists())
        ->toBeFalse()
        ->and(DB::table('staged_files')->count())
        ->toBe(0);
});

it('reads just what a change wrote, and drops a file that it took away', function (): void {
    $file = self::folder().'/site/media/archive/unsorted-14.jpg';
    unlink($file);
    app(RefreshIndex::class)->refresh(
        $this->site(),
        [['post', ['110']]],
        ['media/archive/unsorted-14.jpg', 'media/archive/unsorted-13.jpg'],
        false,
    );
    expect(DB::table('files')->where('path', 'media/archive/unsorted-14.jpg')->exists())
        ->toBeFalse()
        ->and(DB::table('files')->where('path', 'media/archive/unsorted-13.jpg')->exists())
        ->toBeTrue()
        ->and(DB::table('former_files')->where('path', 'media/archive/unsorted-14.jpg')->exists())
        ->toBeTrue()
        ->and(Reading::query()->where('state', 'landing')->exists())
        ->toBeFalse();
});

it('lets no address of another kind into the index', function (): void {
    self::content()->exec(
        "update entries set body = body || '<a href=\"mailto:x@y.example\">m</a><a href=\"tel:+1\">t</a><img "
            ."src=\"data:image/gif;base64,R0lGOD\"><a href=\"javascript:void 0\">j</a><img src=\"blob:x\">' where id "
            .'= 110',
    );
    $count = DB::table('media_references')->count();
    readNow($this);
    expect(DB::table('media_references')->count())
        ->toBe($count)
        ->and(DB::table('addresses')->whereRaw("url ~ '^(mailto|tel|data|javascript|blob):'")->exists())
        ->toBeFalse();
});
