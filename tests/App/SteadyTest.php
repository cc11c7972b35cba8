<?php

declare(strict_types=1);

use App\Models\MediaItem;
use App\Models\Reading;
use App\Models\Site;
use App\Reading\PrepareReading;
use App\Reading\ReadSite;
use App\Retire\LookAtPictures;
use App\Support\WorkLock;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

/** @return list<string> each file, with the item that it is of */
function whoseFiles(): array
{
    return DB::table('files as f')
        ->join('media_items as m', 'm.id', '=', 'f.media_item_id')
        ->where('f.path', 'like', 'media/steady/%')
        ->orderBy('f.path')
        ->get(['f.path', 'm.path as item', 'm.id', 'f.is_original'])
        ->map(static fn (stdClass $row): string => "$row->path $row->item $row->id "
            .($row->is_original ? 'own' : 'size'))
        ->all();
}

it('says the same of files twice, also of smaller pictures of one that no row lists', function (): void {
    $this->touched();
    $folder = self::folder().'/site/media/steady';
    mkdir($folder);
    foreach (['a.jpg', 'a.w640.jpg', 'a.w640.w320.jpg', 'b.w200.jpg'] as $name) {
        file_put_contents("$folder/$name", $this->jpeg(20, 20).$name);
    }
    app(ReadSite::class)->begin($this->site(), null);
    $first = whoseFiles();
    expect(array_map(static fn (string $line): string => preg_replace('~ \d+ ~', ' ', $line), $first))->toBe([
        'media/steady/a.jpg media/steady/a.jpg own',
        'media/steady/a.w640.jpg media/steady/a.jpg size',
        'media/steady/a.w640.w320.jpg media/steady/a.jpg size',
        'media/steady/b.w200.jpg media/steady/b.w200.jpg own',
    ]);
    $items = MediaItem::query()->count();
    file_put_contents("$folder/c.jpg", $this->jpeg(20, 20));
    app(ReadSite::class)->begin($this->site(), null);
    expect(array_slice(whoseFiles(), 0, 4))->toBe($first)->and(MediaItem::query()->count())->toBe($items + 1);
    // When the original goes, the largest that is left is one of its own.
    unlink("$folder/a.jpg");
    app(ReadSite::class)->begin($this->site(), null);
    expect(preg_replace('~ \d+ ~', ' ', whoseFiles()[0]))->toBe('media/steady/a.w640.jpg media/steady/a.w640.jpg own')
        ->and(preg_replace('~ \d+ ~', ' ', whoseFiles()[1]))
        ->toBe('media/steady/a.w640.w320.jpg media/steady/a.w640.jpg size');
});

it('gives one worker to pictures, whatever the number of sites, and hands on to the next', function (): void {
    $this->touched();
    $other = Site::query()->create([...$this->site()->only([
        'name', 'address', 'field_map', 'connection', 'ask_public', 'at_once',
    ]), 'slug' => 'other']);
    DB::table('files')->limit(1)->where('is_original', true)->where('mime', 'image/jpeg')->update([
        'site_id' => $other->id,
        'path' => 'media/other.jpg',
    ]);
    config(['database.connections.elsewhere' => config('database.connections.pgsql')]);
    DB::connection('elsewhere')->select('select pg_advisory_lock(?, 0)', [WorkLock::LOOKS]);
    Queue::fake();
    app()->call([new LookAtPictures($this->site()->id), 'handle']);
    expect(DB::table('looks')->count())->toBe(0);
    DB::purge('elsewhere');
    DB::table('files')->where('site_id', $this->site()->id)->update(['is_original' => false]);
    app()->call([new LookAtPictures($this->site()->id), 'handle']);
    Queue::assertPushed(LookAtPictures::class, static fn (LookAtPictures $job): bool => $job->siteId === $other->id);
});

it('waits once for a site, however often it is asked for', function (): void {
    $this->touched();
    config(['queue.default' => 'database']);
    $reading = Reading::query()->create([
        'site_id' => $this->site()->id, 'state' => 'queued', 'stage' => '', 'started_at' => now(),
    ]);
    foreach ([1, 2, 3] as $n) {
        PrepareReading::dispatch($reading->id);
        LookAtPictures::dispatch($this->site()->id);
    }
    expect(DB::table('jobs')->count())->toBe(2);
});
