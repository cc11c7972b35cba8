<?php

declare(strict_types=1);

use App\Logs\LogReader;
use App\Models\Change;
use App\Models\MediaItem;
use App\Models\Role;
use App\Plans\PlanDesk;
use App\Retire\LookAtPictures;
use App\Retire\Proofs;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Standin\Content\AccessLog;
use Standin\Content\Catalogue;
use Ylema\Plan\IdleQuestion;
use Ylema\Plan\RestingQuestion;
use Ylema\Retire\ArchivePlanner;
use Ylema\Retire\MergePlanner;
use Ylema\Retire\MergeRequest;
use Ylema\Retire\RestorePlanner;
use Ylema\Retire\RestoreRequest;
use Ylema\Retire\RestPlanner;
use Ylema\Retire\RestRequest;

/** Reads the demo's three months of logs. */
function readLogs(object $test): void
{
    $folder = sys_get_temp_dir().'/ylema-logs-'.bin2hex(random_bytes(4));
    static $now = null;
    $now ??= time();
    (new AccessLog(new Catalogue()))->write($folder, $now);
    $logs = app(LogReader::class);
    foreach (glob("$folder/*") ?: [] as $file) {
        $logs->read($test->site(), $file, basename($file));
    }
    $logs->settle($test->site());
    shell_exec('rm -rf '.escapeshellarg($folder));
}

/** As if the public site had been surveyed: one page of it shows the seal of the trust, which no record names. */
function surveyed(object $test): void
{
    DB::table('surveys')->insert([
        'site_id' => $test->site()->id,
        'state' => 'done',
        'stage' => 'end',
        'started_at' => now(),
        'worked_at' => now(),
        'finished_at' => now(),
    ]);
    DB::table('sightings')->insert([
        'site_id' => $test->site()->id,
        'record_id' => DB::table('records')->where('is_page', true)->min('id'),
        'url_hash' => md5('seal'),
        'url' => 'https://korrinbay.example/media/archive/unsorted-14.jpg',
        'path' => 'media/archive/unsorted-14.jpg',
        'seen' => true,
        'mapped' => false,
    ]);
    (new Proofs($test->site()->id))->settle();
}

it('takes nothing for safe before all was looked at', function (): void {
    expect(MediaItem::query()->where('verdict', 'safe')->count())->toBe(0);
    $sheet = (new Proofs($this->site()->id))->sheets([$this->item('archive/left-09.jpg')->id]);
    $says = array_column(reset($sheet)['sheet']->toArray(), 'says', 'source');
    expect($says)->toBe([
        'content' => 'for',
        'code' => 'for',
        'mentions' => 'for',
        'survey' => 'not-known',
        'log' => 'not-known',
        'age' => 'for',
        'copies' => 'against',
    ]);
});

it('says of each planted item whether it is needed, and calls nothing safe that is', function (): void {
    $this->touched();
    readLogs($this);
    surveyed($this);
    $wanted = self::planted()->truth->retire;
    $found = MediaItem::query()->whereIn('path', array_keys($wanted))->pluck('verdict', 'path')->all();
    ksort($wanted);
    ksort($found);
    expect($found)->toBe($wanted);
    $safe = MediaItem::query()->where('verdict', 'safe')->pluck('path')->all();
    $used = array_unique(array_filter(array_column(self::planted()->truth->uses, 'media')));
    expect(array_intersect($safe, $used))->toBe([])->and(count($safe))->toBeGreaterThan(3);
    // A rendition that a reference names is as needed as its item.
    $named = DB::select(
        "select f.path from files f join addresses a on a.file_id = f.id where f.verdict = 'safe' and not a.leads",
    );
    expect($named)->toBe([]);
});

it('counts a log once, however often it is read, and nothing of anybody', function (): void {
    $this->touched();
    readLogs($this);
    $first = DB::table('asked_for')
        ->orderBy('path')
        ->get(['path', 'visitors', 'other_sites', 'mail', 'robots'])
        ->toArray();
    readLogs($this);
    expect(
        DB::table('asked_for')
            ->orderBy('path')
            ->get(['path', 'visitors', 'other_sites', 'mail', 'robots'])
            ->toArray(),
    )->toEqual($first);
    $log = DB::table('log_files')->where('broken', '>', 0)->first();
    expect($log->example)->not->toContain('192.0.2');
    $all = json_encode([DB::table('asked_for')->get(), DB::table('log_files')->get()]);
    expect($all)->not->toMatch('~192\.0\.2\.|198\.51\.100|reader=~');
    $five = DB::table('asked_for')->where('path', 'media/archive/left-05.jpg')->first();
    expect([(int) $five->other_sites > 5, json_decode($five->pages, true)])->toBe([
        true,
        ['https://tidewatchers.example/links/bay.html' => (int) $five->other_sites],
    ]);
});

it('lays idle items to rest with their renditions and rows, and gives back every byte', function (): void {
    readLogs($this);
    surveyed($this);
    $files = $this->fileHashes();
    $content = $this->contentDigest();
    $stat = stat(self::folder().'/site/media/archive/left-09.jpg');
    $plan = app(PlanDesk::class)->make(
        $this->site(),
        new RestPlanner(new RestRequest(new IdleQuestion(['proof' => 'safe']))),
        null,
    );
    $change = $this->apply($plan);
    expect($change->steps()->whereNotNull('message')->pluck('message')->unique()->all())->toBe([]);
    expect($change->state->value)->toBe('applied');
    $after = $this->fileHashes();
    $gone = array_diff_key($files, $after);
    expect(array_diff_key($after, $files))
        ->toBe([])
        ->and(array_keys($gone))
        ->toContain('media/archive/left-09.jpg', 'media/archive/left-09.w480.jpg', 'media/archive/left-07.jpg')
        ->and(MediaItem::query()->where('path', 'media/archive/left-09.jpg')->exists())
        ->toBeFalse()
        ->and(DB::table('resting_files')->count())
        ->toBe(count($gone));
    expect((int) self::contentValue("select count(*) from media where path = 'media/archive/left-09.jpg'"))->toBe(0);
    $undone = $this->undo($change);
    clearstatcache();
    $back = stat(self::folder().'/site/media/archive/left-09.jpg');
    expect($undone->state->value)
        ->toBe('undone')
        ->and($this->fileHashes())
        ->toBe($files)
        ->and($this->contentDigest())
        ->toBe($content)
        ->and([$back['mode'], $back['uid'], $back['gid'], $back['mtime']])
        ->toBe([$stat['mode'], $stat['uid'], $stat['gid'], $stat['mtime']])
        ->and(DB::table('resting_files')->count())
        ->toBe(0);
});

it('never lays to rest what is needed, and asks first where it should', function (): void {
    $this->touched();
    readLogs($this);
    surveyed($this);
    $ids = array_map(fn (string $path): int => $this->item("archive/$path.jpg")->id, ['left-01', 'left-05', 'left-09']);
    $plan = app(PlanDesk::class)->make(
        $this->site(),
        new RestPlanner(new RestRequest(new IdleQuestion(items: $ids))),
        null,
    );
    $left = $plan->steps()->where('state', 'left-out')->pluck('message', 'path')->all();
    expect($left['media/archive/left-01.jpg'])
        ->toContain('theme/footer.phtml:1')
        ->and($left['media/archive/left-05.jpg'])
        ->toContain('Ask first', 'tidewatchers.example');
    $plan = app(PlanDesk::class)->make(
        $this->site(),
        new RestPlanner(new RestRequest(new IdleQuestion(items: $ids), true)),
        null,
    );
    expect($plan->steps()->where('state', 'left-out')->pluck('path')->all())->toBe(['media/archive/left-01.jpg']);
});

it('restores one of many, also where another file has taken its place', function (): void {
    readLogs($this);
    surveyed($this);
    $rest = $this->apply(
        app(PlanDesk::class)->make(
            $this->site(),
            new RestPlanner(new RestRequest(new IdleQuestion(['proof' => 'safe']))),
            null,
        ),
    );
    expect($rest->state->value)->toBe('applied');
    $at = self::folder().'/site/media/archive/left-09.jpg';
    file_put_contents($at, 'another');
    $id = (int) DB::table('resting_files')->where('path', 'media/archive/left-09.jpg')->value('id');
    $ask = fn (bool $elsewhere): RestorePlanner => new RestorePlanner(
        new RestoreRequest(new RestingQuestion([$id]), $elsewhere),
    );
    $plan = app(PlanDesk::class)->make($this->site(), $ask(false), null);
    expect($plan->steps()->where('state', 'left-out')->value('message'))->toContain('left-09-2.jpg');
    $change = $this->apply(app(PlanDesk::class)->make($this->site(), $ask(true), null));
    expect($change->state->value)
        ->toBe('applied')
        ->and(file_get_contents($at))
        ->toBe('another')
        ->and(is_file(self::folder().'/site/media/archive/left-09-2.jpg'))
        ->toBeTrue()
        ->and(is_file(self::folder().'/site/media/archive/left-09.w480.jpg'))
        ->toBeTrue();
    expect($this->undo($change)->state->value)
        ->toBe('undone')
        ->and(is_file(self::folder().'/site/media/archive/left-09-2.jpg'))
        ->toBeFalse();
});

it('archives what rested long enough into a bag that any tool accepts, and restores from it', function (): void {
    readLogs($this);
    surveyed($this);
    $files = $this->fileHashes();
    $content = $this->contentDigest();
    // A page that is gone had named it.
    DB::table('left_behind')->insert([
        'site_id' => $this->site()->id,
        'media_item_id' => $this->item('archive/left-09.jpg')->id,
        'kind' => 'post',
        'title' => 'The old quay, 2011',
        'key' => '77',
        'field' => 'body',
        'address' => 'quay',
        'gone_at' => '2024-02-02',
    ]);
    $this->apply(
        app(PlanDesk::class)->make(
            $this->site(),
            new RestPlanner(new RestRequest(new IdleQuestion(['proof' => 'safe']))),
            null,
        ),
    );
    $rested = DB::table('resting_files')->count();
    DB::table('resting_files')->update(['until' => '2026-01-01']);
    DB::table('resting_files')
        ->where('path', 'media/archive/left-07.jpg')
        ->update(['called_at' => now(), 'called_by' => 'Somebody.']);
    $archive = $this->apply(
        app(PlanDesk::class)->make($this->site(), new ArchivePlanner(new RestingQuestion(over: '2026-06-01')), null),
    );
    expect($archive->state->value)
        ->toBe('applied')
        ->and(DB::table('resting_files')->pluck('path')->all())
        ->toBe(['media/archive/left-07.jpg'])
        ->and(DB::table('bag_files')->count())
        ->toBe($rested - 1);
    $bag = storage_path('app/bags/'.DB::table('bags')->value('name'));
    foreach (['sha256', 'sha512'] as $algorithm) {
        foreach (['manifest', 'tagmanifest'] as $which) {
            exec(
                'cd '.escapeshellarg($bag)." && {$algorithm}sum --strict -c $which-$algorithm.txt 2>&1",
                $said,
                $code,
            );
            expect($code)->toBe(0, implode("\n", $said));
        }
    }
    expect(Tests\App\BagReader::problems($bag))->toBe([]);
    $rows = json_decode((string) file_get_contents("$bag/ylema/media-rows.json"), true);
    expect(array_column($rows, 'path'))->toContain('media/archive/left-09.jpg');
    $uses = json_decode((string) file_get_contents("$bag/ylema/uses.json"), true);
    expect($uses)
        ->toEqual([
            [
                'path' => 'media/archive/left-09.jpg',
                'kind' => 'post',
                'key' => '77',
                'title' => 'The old quay, 2011',
                'field' => 'body',
                'address' => 'quay',
            ],
        ])
        ->and((string) file_get_contents("$bag/ylema/uses.csv"))
        ->toContain('media/archive/left-09.jpg,post,77,"The old quay, 2011",body,quay');
    // From the bag to its place, and then all the way back.
    $id = (int) DB::table('bag_files')->where('path', 'media/archive/left-09.jpg')->value('id');
    $back = $this->apply(
        app(PlanDesk::class)->make(
            $this->site(),
            new RestorePlanner(new RestoreRequest(new RestingQuestion(bagged: [$id]))),
            null,
        ),
    );
    expect($back->state->value)
        ->toBe('applied')
        ->and(hash_file('sha256', self::folder().'/site/media/archive/left-09.jpg'))
        ->toBe($files['media/archive/left-09.jpg'])
        ->and((int) self::contentValue("select count(*) from media where path = 'media/archive/left-09.jpg'"))
        ->toBe(1);
    foreach (Change::query()->orderByDesc('id')->get() as $change) {
        expect($this->undo($change)->state->value)->toBe('undone');
    }
    expect($this->fileHashes())
        ->toBe($files)
        ->and($this->contentDigest())
        ->toBe($content)
        ->and(is_dir($bag))
        ->toBeFalse();
});

/** What the demo's pictures are to each other; of what was not planted so, only a few are looked at closely. */
function lookAtPictures(object $test, array $planted): void
{
    $queue = Queue::getFacadeRoot();
    Queue::fake();
    $turn = static fn (): mixed => app()->call([new LookAtPictures($test->site()->id), 'handle']);
    do {
        $turn();
    } while (DB::table('comparisons')->doesntExist());
    expect(DB::table('alike')->whereIn('how', ['picture', 'part'])->exists())->toBeFalse();
    DB::update(
        "update comparisons set says = 'apart' where one || other not in (select one || other from comparisons "
            .'order by one, other limit 8) and not exists (select 1 from files f where f.path = any(cast(? as text[])) '
            .'and f.sha256 in (one, other))',
        ['{'.implode(',', $planted).'}'],
    );
    for ($n = 0; $n < 9 && LookAtPictures::isWanted($test->site()->id); $n++) {
        $turn();
    }
    expect(LookAtPictures::isWanted($test->site()->id))->toBeFalse();
    Queue::swap($queue);
}

it('finds copies, other sizes and parts, and makes a group one with the words of each place kept', function (): void {
    $this->touched();
    readLogs($this);
    surveyed($this);
    $media = self::planted()->media;
    // To compare one pair takes seconds: all copies, and of the others as many as tell; bench/alike says how well.
    $planted = [
        'copies' => $media->groups['copies'],
        'recoded' => array_slice($media->groups['recoded'], 0, 2),
        'crops' => array_slice($media->groups['crops'], 0, 2),
    ];
    $paths = static fn (array $ids): array => array_map(
        static fn (int $id): string => $media->items[$id]->path,
        $ids,
    );
    // What they were made from, and of all other pictures each fourth.
    $sources = [];
    foreach (['shore', 'boats', 'harbour'] as $group) {
        array_push($sources, ...array_slice($media->groups[$group], 0, 6));
    }
    DB::update(
        "update files set is_original = false where site_id = ? and id % 4 > 0 and path not like 'media/archive/%' "
            .'and path <> all(cast(? as text[])) and sha256 not in (select sha256 from files where is_original '
            .'group by sha256 having count(*) > 1)',
        [$this->site()->id, Sql::texts([...$paths($sources), 'media/people/lise-holm.jpg'])],
    );
    lookAtPictures($this, $paths(array_merge(...array_values($planted))));
    $how = DB::table('alike as a')
        ->join('media_items as i', 'i.id', '=', 'a.media_item_id')
        ->where('i.path', 'like', 'media/archive/%')
        ->pluck('a.how', 'i.path');
    foreach (['copies' => 'bytes', 'recoded' => 'picture', 'crops' => 'part'] as $group => $as) {
        foreach ($planted[$group] as $id) {
            expect($how[$media->items[$id]->path] ?? null)->toBe($as, $media->items[$id]->path);
        }
    }
    // Nothing is alike that was not planted so, but for what the generator drew alike itself.
    $groups = DB::table('alike')->distinct()->count('group_no');
    expect($groups)->toBeGreaterThanOrEqual(10)->toBeLessThan(20);
    $page = $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/copies?how=bytes')->assertOk()->json();
    expect($page['total'])->toBe(6);
    // What is the same to the last byte stands first; of the others it is said where they differ.
    $all = $this->getJson('/api/sites/korrin-bay/copies?limit=100')->assertOk()->json('groups');
    $same = array_map(static fn (array $g): bool => in_array('bytes', array_column($g['items'], 'how'), true), $all);
    expect(array_slice($same, 0, 6))->toBe(array_fill(0, 6, true))->and($same[6])->toBeFalse();
    $alike = array_values(array_filter(
        $all,
        static fn (array $g): bool => in_array('picture', array_column($g['items'], 'how'), true),
    ))[0]['items'];
    $this->getJson("/api/sites/korrin-bay/copies/differences?one={$alike[0]['id']}&other={$alike[1]['id']}")
        ->assertOk()
        ->assertJsonPath('compared', true);
    $other = $this->item('people/lise-holm.jpg')->id;
    $apart = $this->getJson("/api/sites/korrin-bay/copies/differences?one={$alike[0]['id']}&other=$other")->assertOk();
    expect($apart->json('places'))->not->toBe([]);
    $group = array_values(
        array_filter($page['groups'], static fn (array $g): bool => array_sum(array_column($g['items'], 'uses')) > 0),
    )[0];
    // The used one gives way, so that references have to follow.
    usort($group['items'], static fn (array $a, array $b): int => $a['uses'] <=> $b['uses']);
    [$keeper, $used] = $group['items'];
    $files = $this->fileHashes();
    $content = $this->contentDigest();
    $plan = app(PlanDesk::class)->make(
        $this->site(),
        new MergePlanner(new MergeRequest($keeper['id'], [$used['id']])),
        null,
    );
    $change = $this->apply($plan);
    expect($change->state->value)
        ->toBe('applied')
        ->and($plan->refresh()->sentence)
        ->toContain('point at it')
        ->and(is_file(self::folder()."/site/{$used['path']}"))
        ->toBeFalse()
        ->and(MediaItem::query()->findOrFail($keeper['id'])->uses)
        ->toBe($used['uses'] + $keeper['uses'])
        ->and(MediaItem::query()->findOrFail($keeper['id'])->broken)
        ->toBe(0)
        ->and(DB::table('redirects')->where('from_path', $used['path'])->exists())
        ->toBeTrue();
    expect($this->undo($change)->state->value)
        ->toBe('undone')
        ->and($this->fileHashes())
        ->toBe($files)
        ->and($this->contentDigest())
        ->toBe($content);

    // Somebody edits a record in between: it cannot be written, so what it names stays.
    $again = app(PlanDesk::class)->make(
        $this->site(),
        new MergePlanner(
            new MergeRequest(
                $keeper['id'],
                [MediaItem::query()->where('path', $used['path'])->sole()->id],
            ),
        ),
        null,
    );
    $record = $again->steps()->where('kind', 'edit-record')->whereIn('record_kind', ['page', 'post'])->firstOrFail();
    self::content()
        ->prepare("update entries set body = body || ' ' where id = ?")
        ->execute([$record->record_key]);
    $this->apply($again);
    $stayed = $again->steps()->where('kind', 'rest-file')->pluck('message', 'state')->all();
    expect($stayed)
        ->toBe([
            'refused' => 'It stays: a record that could not be written may still name it. Put that right first, then '
                .'plan again.',
        ])
        ->and(is_file(self::folder()."/site/{$used['path']}"))
        ->toBeTrue();
});
