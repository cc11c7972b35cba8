<?php

declare(strict_types=1);

use App\Changes\RestoreCalled;
use App\Logs\LogReader;
use App\Models\MediaItem;
use App\Models\Role;
use App\Plans\PlanDesk;
use App\Reading\ReadSite;
use App\Retire\Watch;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Ylema\Plan\IdleQuestion;
use Ylema\Retire\RedrawPlanner;
use Ylema\Retire\RedrawRequest;
use Ylema\Retire\RestPlanner;
use Ylema\Retire\RestRequest;

/** Lays some items of the archive folder to rest, whatever should be asked first. */
function layToRest(object $test, string ...$names): void
{
    $change = (fn () => $this->apply(
        app(PlanDesk::class)->make(
            $this->site(),
            new RestPlanner(
                new RestRequest(
                    new IdleQuestion(
                        items: array_map(fn (string $name): int => $this->item("archive/$name.jpg")->id, $names),
                    ),
                    true,
                ),
            ),
            null,
        ),
    ))->call($test);
    expect($change->state->value)->toBe('applied');
}

function calledBy(string $name): ?string
{
    return DB::table('resting_files')
        ->where('path', "media/archive/$name.jpg")
        ->value('called_by');
}

it('calls back what a record comes to name, by address or by number, and what code comes to name', function (): void {
    $number = self::contentValue("select id from media where path = 'media/archive/left-10.jpg'");
    layToRest($this, 'left-07', 'left-09', 'left-10');
    $insert = self::content()->prepare('update entries set body = body || ?, featured_id = ? where id = 130');
    $insert->execute(['<img src="/media/archive/left-09.jpg" alt="">', $number]);
    mkdir(self::folder().'/site/theme/new', 0o777, true);
    file_put_contents(self::folder().'/site/theme/new/late.css', '.a { background: url(left-07.jpg) }');
    app(ReadSite::class)->begin($this->site(), null);
    expect(calledBy('left-09'))
        ->toMatch('~^The post “.*” names it\.$~')
        ->and(calledBy('left-10'))
        ->toContain('names it by its number')
        ->and(calledBy('left-07'))
        ->toBe('The site’s own code names it: theme/new/late.css:1.');
    $desk = $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/desk')->assertOk()->json('resting');
    expect($desk['called'])->toBe(3);
    // What somebody looked at may rest on, until something calls it anew.
    $id = DB::table('resting_files')->where('path', 'media/archive/left-07.jpg')->value('id');
    $this->as(Role::Maintainer)
        ->deleteJson("/api/sites/korrin-bay/resting/$id/call")
        ->assertOk();
    expect(calledBy('left-07'))->toBeNull();
});

it('calls back by the names by which a proof sheet keeps a file', function (): void {
    layToRest($this, 'left-07', 'left-09', 'left-10');
    mkdir(self::folder().'/site/theme/new', 0o777, true);
    $code = self::folder().'/site/theme/new/late.css';
    // In capitals, and below a folder that is longer than its own.
    file_put_contents($code, '.a { background: url(LEFT-07.JPG) } '
        .'/* https://x.example/old/media/archive/left-09.jpg */');
    app(ReadSite::class)->begin($this->site(), null);
    expect(calledBy('left-07'))
        ->toBe('The site’s own code names it: theme/new/late.css:1.')
        ->and(calledBy('left-09'))
        ->toBe('The site’s own code names it: theme/new/late.css:1.')
        ->and(calledBy('left-10'))
        ->toBeNull();
    unlink($code);
});

it('calls back what a page shows, and what people ask for, but not what robots do', function (): void {
    layToRest($this, 'left-07', 'left-09', 'left-10');
    DB::table('sightings')->insert([
        'site_id' => $this->site()->id,
        'record_id' => DB::table('records')->where('is_page', true)->min('id'),
        'url_hash' => md5('x'),
        'url' => 'https://korrinbay.example/media/archive/left-10.jpg',
        'path' => 'media/archive/left-10.jpg',
        'seen' => true,
        'mapped' => false,
        'made_at' => now()->addMinute(),
    ]);
    (new Watch($this->site()))->ofSurvey();
    $log = (string) tempnam(sys_get_temp_dir(), 'log');
    $line = static fn (string $name, string $agent): string => '192.0.2.1 - - ['
        .gmdate('d/M/Y:H:i:s', time() + 5)
        ." +0000] \"GET /media/archive/$name.jpg HTTP/1.1\" 404 9 \"-\" \"$agent\"\n";
    file_put_contents($log, $line('left-09', 'Mozilla/5.0 (X11)').$line('left-07', 'shorebot/1'));
    $logs = app(LogReader::class);
    $logs->read($this->site(), $log, 'access.log');
    $logs->settle($this->site());
    unlink($log);
    expect(calledBy('left-10'))
        ->toMatch('~^The page “.*” shows it\.$~')
        ->and(calledBy('left-09'))
        ->toStartWith('Somebody asked for it on ')
        ->and(calledBy('left-07'))
        ->toBeNull();
    // By itself, where the owner wants that.
    app(RestoreCalled::class)->run($this->site());
    expect(is_file(self::folder().'/site/media/archive/left-09.jpg'))->toBeFalse();
    $this->as(Role::Owner)
        ->patchJson('/api/sites/korrin-bay/keeping', ['restores' => true])
        ->assertOk();
    app(RestoreCalled::class)->run($this->site());
    expect(is_file(self::folder().'/site/media/archive/left-09.jpg'))
        ->toBeTrue()
        ->and(is_file(self::folder().'/site/media/archive/left-07.jpg'))
        ->toBeFalse()
        ->and(DB::table('resting_files')->whereNotNull('called_at')->count())
        ->toBe(0);
});

it('refuses what is no log, and keeps on behind where it was', function (): void {
    $this->touched();
    $log = (string) tempnam(sys_get_temp_dir(), 'log');
    file_put_contents($log, "root:x:0:0\n10.1.2.3 secret\n");
    expect(fn () => app(LogReader::class)->read($this->site(), $log, 'passwords'))->toThrow(
        App\Logs\LogProblem::class,
        'is no access log',
    );
    $line = static fn (
        int $n,
    ): string => "192.0.2.1 - - [12/Oct/2026:13:00:0$n +0000] \"GET /media/archive/left-09.jpg "
        ."HTTP/1.1\" 200 9 \"-\" \"Mozilla/5.0 (X11)\"\n";
    file_put_contents($log, $line(1).$line(2).'192.0.2.1 - - [12/Oct/2026:13:0');
    $read = fn (string $file): int => app(LogReader::class)->read($this->site(), $file, 'access.log')->lines;
    expect($read($log))->toBe(2)->and($read($log))->toBe(0);
    // The line that was being written is whole by now, and the log is turned over and packed.
    file_put_contents("$log.gz", gzencode($line(1).$line(2).$line(3)));
    expect($read("$log.gz"))
        ->toBe(1)
        ->and((int) DB::table('asked_for')->where('path', 'media/archive/left-09.jpg')->value('visitors'))
        ->toBe(3);
    unlink($log);
    unlink("$log.gz");
});

it('says what a record would leave behind, and finds it once the record is gone', function (): void {
    $this->touched();
    $post = DB::table('records')->where('kind', 'post')->where('key', '201')->first();
    self::content()
        ->prepare('update entries set body = ? where id = 201')
        ->execute(['<img src="/media/archive/left-09.jpg" alt=""><img src="/media/people/maren-oake.jpg" alt="">']);
    app(ReadSite::class)->begin($this->site(), null);
    $leaves = $this->as(Role::Viewer)
        ->getJson("/api/sites/korrin-bay/records/$post->id/leaves")
        ->assertOk()
        ->json();
    expect(array_column($leaves['only'], 'path'))
        ->toContain('media/archive/left-09.jpg')
        ->and(array_column($leaves['shared'], 'path'))
        ->toContain('media/people/maren-oake.jpg');
    self::content()->exec('delete from entries where id = 201');
    app(ReadSite::class)->begin($this->site(), null);
    $left = $this->getJson('/api/sites/korrin-bay/media?left=1')->assertOk()->json('items');
    expect(array_column($left, 'path'))->toContain('media/archive/left-09.jpg');
    $desk = $this->getJson('/api/sites/korrin-bay/desk')->json('left_behind');
    expect($desk['items'])->toBe(count($left));
});

it('counts renditions by size, lays those of one to rest, and draws them again', function (): void {
    $sizes = $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/renditions')->assertOk()->json('sizes');
    $bySize = array_column($sizes, null, 'width');
    expect(array_sum(array_column($sizes, 'files')))
        ->toBe(DB::table('files')->where('is_original', false)->count())
        ->and($bySize[480]['rule'])
        ->toBe('{name}.w{width}.{ext}');
    $files = DB::table('files as f')
        ->join('media_items as i', 'i.id', '=', 'f.media_item_id')
        ->where('i.path', 'media/archive/left-09.jpg')
        ->where('f.width', 480)
        ->pluck('f.id')
        ->all();
    $plan = app(PlanDesk::class)->make(
        $this->site(),
        new RestPlanner(new RestRequest(new IdleQuestion(files: $files), true)),
        null,
    );
    expect(implode(' ', $plan->outline['notes']))->toContain('1 rendition can be drawn again');
    $path = self::folder().'/site/media/archive/left-09.w480.jpg';
    $this->apply($plan);
    expect(is_file($path))->toBeFalse()->and($this->item('archive/left-09.jpg')->source_id)->not->toBeNull();
    // Lost for good, it is missing, and drawn again.
    DB::table('resting_files')->delete();
    $change = $this->apply(
        app(PlanDesk::class)->make($this->site(), new RedrawPlanner(new RedrawRequest(width: 480)), null),
    );
    expect($change->state->value)
        ->toBe('applied')
        ->and(array_slice((array) getimagesize($path), 0, 2))
        ->toBe([480, 320]);
});

it('lets a row go whose file is gone, and gives it back', function (): void {
    $item = MediaItem::query()->where('path', 'media/lost/founders-day.jpg')->firstOrFail();
    $before = $this->contentDigest();
    $plan = app(PlanDesk::class)->make(
        $this->site(),
        new RestPlanner(new RestRequest(new IdleQuestion(items: [$item->id]), true)),
        null,
    );
    $change = $this->apply($plan);
    expect((int) self::contentValue('select count(*) from media where id = 9001'))->toBe(0);
    $this->undo($change);
    expect($this->contentDigest())->toBe($before);
});

it('weighs what there is, and hands each table over', function (): void {
    $weight = $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/weight')->assertOk()->json();
    $all = (int) DB::table('files')->sum('size');
    foreach (['folders', 'types', 'standings', 'years'] as $table) {
        expect(array_sum(array_column($weight[$table], 'bytes')))->toBe($all, $table);
        $csv = $this->get("/api/sites/korrin-bay/weight/export?table=$table")
            ->assertOk()
            ->streamedContent();
        expect(explode("\r\n", $csv)[0])
            ->toBe('name,items,files,bytes,renditions,safe')
            ->and(substr_count($csv, "\r\n"))
            ->toBe(count($weight[$table]) + 1);
    }
});

it('keeps what an owner says, and refuses what cannot be', function (): void {
    $this->touched();
    $patch = fn (array $said) => $this->as(Role::Owner)->patchJson('/api/sites/korrin-bay/keeping', $said);
    expect(
        $patch(['days' => 5])
            ->assertOk()
            ->json('days'),
    )->toBe(5);
    $patch(['logs' => '/no/such/folder'])
        ->assertStatus(422)
        ->assertJsonPath('errors.logs.0', fn (string $s): bool => true);
    $patch(['bags' => self::folder().'/site/media'])
        ->assertStatus(422)
        ->assertJsonPath('detail', 'That folder lies in the public tree of the site. Choose one outside of it.');
    $this->as(Role::Maintainer)
        ->patchJson('/api/sites/korrin-bay/keeping', ['days' => 4])
        ->assertStatus(403);
});

it('deletes a bag for good only for its name, and says which bag is damaged', function (): void {
    layToRest($this, 'left-09');
    DB::table('resting_files')->update(['until' => '2026-01-01']);
    $this->apply(
        app(PlanDesk::class)->make(
            $this->site(),
            new Ylema\Retire\ArchivePlanner(new Ylema\Plan\RestingQuestion(over: '2026-06-01')),
            null,
        ),
    );
    $name = DB::table('bags')->value('name');
    // From another folder no bag would be found.
    $elsewhere = self::folder().'/other-bags';
    mkdir($elsewhere);
    $this->as(Role::Owner)
        ->patchJson('/api/sites/korrin-bay/keeping', ['bags' => $elsewhere])
        ->assertStatus(422)
        ->assertJsonPath('errors.bags.0', fn (string $says): bool => str_contains($says, '1 bag of this site lies in'));
    $this->patchJson('/api/sites/korrin-bay/keeping', ['bags' => null])->assertOk();
    Storage::disk('bags')->put("$name/data/media/archive/left-09.jpg", 'rot');
    $this->as(Role::Maintainer)
        ->postJson("/api/sites/korrin-bay/bags/$name/verify")
        ->assertStatus(202);
    $bag = $this->getJson('/api/sites/korrin-bay/bags')->json('bags.0');
    expect($bag['trouble'])->toBe(['data/media/archive/left-09.jpg has other bytes than its manifest says']);
    $this->as(Role::Owner)
        ->deleteJson("/api/sites/korrin-bay/bags/$name", ['name' => 'another'])
        ->assertStatus(409);
    expect(Storage::disk('bags')->exists("$name/bagit.txt"))->toBeTrue();
    $this->deleteJson("/api/sites/korrin-bay/bags/$name", ['name' => $name])->assertOk();
    expect(Storage::disk('bags')->exists("$name/bagit.txt"))
        ->toBeFalse()
        ->and(DB::table('bag_files')->count())
        ->toBe(0);
});
