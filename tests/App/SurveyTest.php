<?php

declare(strict_types=1);

use App\Adopt\Adoptions;
use App\Models\Plan;
use App\Models\Record;
use App\Models\Role;
use App\Models\Survey;
use App\Models\WorkState;
use App\Outgoing\DeepVisitor;
use App\Plans\PlanDesk;
use App\Reading\ReadSite;
use App\Survey\AlreadySurveying;
use App\Survey\Surveyor;
use App\Survey\SurveyReport;
use App\Survey\Surveys;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Tests\App\Loopback;
use Ylema\Addresses\OutcomeKind;
use Ylema\Adopt\AdoptPlanner;
use Ylema\Adopt\AdoptRequest;
use Ylema\Repair\RepairPlanner;
use Ylema\Repair\RepairRequest;

/*
 * Surveys of the demo's public site as its own code serves it, on loopback.
 */

beforeEach(function (): void {
    $this->touched();
    $this->notes = sys_get_temp_dir().'/ylema-survey-'.bin2hex(random_bytes(4));
    mkdir("$this->notes/cache", 0o700, true);
    touch("$this->notes/asked");
    $this->server = new Loopback(__DIR__.'/public-site.php', [
        'STANDIN_DSN' => (string) config('demo.dsn'),
        'STANDIN_USER' => (string) config('demo.user'),
        'STANDIN_PASSWORD' => (string) config('demo.password'),
        'STANDIN_CACHE' => "$this->notes/cache",
        'STANDIN_CACHE_SECONDS' => '0',
        'SITE' => self::folder().'/site',
        'DRAWN' => dirname(__DIR__, 2).'/var/drawn',
        'ASKED' => "$this->notes/asked",
        'ANSWERS' => "$this->notes/answers.php",
    ]);
    $origin = $this->server->origin();
    $this->site()->update([
        'reach_at' => [
            'korrinbay.example' => $origin,
            'www.korrin-observatory.example' => $origin,
            'korrin-observatory.example' => $origin,
            'pics.shorelog.example' => $origin,
        ],
    ]);
});

afterEach(function (): void {
    $this->server->end();
    shell_exec('rm -rf '.escapeshellarg($this->notes));
});

function survey(object $test, ?array $pages = null): Survey
{
    return app(Surveys::class)->begin($test->site(), null, $pages)->refresh();
}

/** @return list<int> pages that show a picture of another host, or of the former address */
function pagesWithForeign(): array
{
    return DB::table('media_references as m')
        ->join('records as r', 'r.id', '=', 'm.record_id')
        ->whereIn('m.outcome', ['foreign-host', 'former-address'])
        ->where('r.is_page', true)
        ->where('r.state', 0)
        ->distinct()
        ->orderBy('r.id')
        ->pluck('r.id')
        ->all();
}

/** @return list<string> */
function asked(object $test): array
{
    return file("$test->notes/asked", FILE_IGNORE_NEW_LINES) ?: [];
}

/** Whatever is asked for is answered as this says; true where it was. */
function answers(object $test, string $php): void
{
    file_put_contents("$test->notes/answers.php", "<?php $php");
}

it('asks every public page and all that they show once, and says what does not load', function (): void {
    $open = static fn (): int => count(scandir('/proc/self/fd') ?: []);
    $before = $open();
    $survey = survey($this);
    $pages = Record::query()->where('is_page', true)->where('state', 0)->count();
    expect($survey->state)
        ->toBe(WorkState::Done)
        // What stays open in a worker adds up until select() takes no more.
        ->and($open())
        ->toBeLessThan($before + 12)
        ->and($survey->total('pages'))
        ->toBe($pages);
    $own = array_filter(
        asked($this),
        static fn (string $line): bool => str_starts_with($line, 'HEAD korrinbay.example/media/'),
    );
    $known = DB::table('visits')->where('kind', 'media')->where('host', 'korrinbay.example')->count();
    expect($own)->toHaveCount($known);
    $report = new SurveyReport($this->site());
    $failing = array_column($report->failing(0, 200)['rows'], null, 'url');
    expect($failing['https://www.korrin-observatory.example/bay/media/brand/icon-1.png']['why'])
        ->toBe('It answers 410.')
        ->and($failing['https://korrinbay.example/media/2013/founders.jpg']['pages'])
        ->toBe(1)
        ->and(array_keys($failing))
        ->not->toContain('https://www.korrin-observatory.example/bay/media/2014/gull-skerry-at-low-water.w480.jpg')
        ->and($report->figures()['failing'])
        ->toBe(count($failing))
        ->and($report->sentence())
        ->toContain('do not.');
    // What loads carries its type and weight.
    $one = DB::table('visits')->where('kind', 'media')->where('asked', '~', '^media/brand/[^?]*$')->first();
    expect($one->weight)->toBe(filesize(self::folder()."/site/$one->asked"));
});

it('makes findings of what it learnt: dead links, what another host has no more', function (): void {
    survey($this);
    $links = DB::table('findings as m')
        ->join('records as r', 'r.id', '=', 'm.record_id')
        ->where('m.leads', true)
        ->whereIn('m.outcome', ['dead-link', 'by-redirect', 'former-address'])
        ->get(['r.kind', 'r.key', 'm.field', 'm.value', 'm.outcome', 'm.path', 'm.sure']);
    $found = [];
    foreach ($links as $link) {
        $found[] = [
            'kind' => $link->kind,
            'key' => $link->key,
            'field' => $link->field,
            'value' => $link->value,
            'outcome' => $link->outcome,
            'to' => $link->sure ? $link->path : null,
        ];
    }
    expect($found)->toEqualCanonicalizing(self::planted()->truth->links);
    $gone = DB::table('findings')->where('outcome', 'foreign-gone')->pluck('value')->all();
    $planted = array_column(
        array_filter(
            self::planted()->truth->uses,
            static fn (array $use): bool => $use['outcome'] === 'foreign-host'
                && Record::query()->where('kind', $use['kind'])->where('key', $use['key'])->value('state') === 0,
        ),
        'value',
    );
    // Odd ones answer with something, but for the one that is a page.
    $served = array_filter(
        $planted,
        static fn (string $value): bool => is_file(
            dirname(__DIR__, 2).'/var/drawn/foreign'.parse_url($value, PHP_URL_PATH),
        ) || (str_contains($value, '/odd/') && ! str_ends_with($value, 'page.jpg')),
    );
    expect($gone)->toEqualCanonicalizing(array_values(array_diff($planted, $served)));
});

it('finds what pages show and the map does not have, and what the map has and no page shows', function (): void {
    $page = Record::query()->where('address', 'tides')->firstOrFail();
    answers($this, <<<'PHP'
        if ($path === '/tides') {
            echo '<img src="/media/birds/curlew-count.webp"><img src=/media/extra.png>';
            return true;
        }
        PHP);
    survey($this, [$page->id]);
    $report = new SurveyReport($this->site());
    expect(array_column($report->unmapped(0, 10)['rows'], 'path'))
        ->toContain('media/extra.png')
        ->and($report->figures()['unmapped'])
        ->toBe(2)
        ->and(array_column($report->unseen(0, 200)['rows'], 'role', 'path'))
        ->toHaveKey('media/brand/korrin-logo.png');
    // The page as it is shows all of it.
    unlink("$this->notes/answers.php");
    survey($this, [$page->id]);
    expect($report->figures()['unmapped'])
        ->toBe(0)
        ->and(array_column($report->unseen(0, 200)['rows'], 'path'))
        ->not->toContain('media/brand/korrin-logo.png');
});

it('asks a page again only on the condition that it changed, and knows all the same what it shows', function (): void {
    $page = Record::query()->where('address', 'visit')->firstOrFail();
    survey($this, [$page->id]);
    $shown = fn (): array => DB::table('sightings')
        ->where('record_id', $page->id)
        ->orderBy('url_hash')
        ->get(['url', 'role', 'seen', 'mapped'])
        ->all();
    $before = $shown();
    survey($this, [$page->id]);
    $conditions = array_filter(
        asked($this),
        static fn (string $line): bool => preg_match('~/visit ".+"$~', $line) === 1,
    );
    expect($conditions)
        ->toHaveCount(1)
        ->and($shown())
        ->toEqual($before);
});

it('leaves a site in peace that does not answer, and goes on where it was', function (): void {
    answers($this, 'http_response_code(503); return true;');
    $survey = survey($this, pagesWithForeign());
    expect($survey->state)
        ->toBe(WorkState::Halted)
        ->and($survey->problem)
        ->toContain('did not answer 12 times in a row')
        ->and(count(asked($this)))
        ->toBeLessThan(60);
    unlink("$this->notes/answers.php");
    $again = survey($this, pagesWithForeign());
    expect($again->id)
        ->toBe($survey->id)
        ->and($again->state)
        ->toBe(WorkState::Done);
});

it('takes a page that is met at several addresses for all that they show together', function (): void {
    $page = Record::query()->where('address', 'tides')->firstOrFail();
    DB::table('further_addresses')->insert([
        'site_id' => $this->site()->id, 'record_id' => $page->id, 'address' => 'cy/llanw',
    ]);
    answers($this, "if (str_contains(\$path, '/llanw')) { header('ETag: \"a\"');"
        ." echo '<img src=\"/media/people/lise-holm.jpg\">'; return true; }");
    $shown = fn (): array => DB::table('sightings')
        ->where('record_id', $page->id)
        ->where('seen', true)
        ->orderBy('path')
        ->pluck('path')
        ->all();
    survey($this, [$page->id]);
    $first = $shown();
    expect($first)
        ->toContain('media/people/lise-holm.jpg')
        ->and(count($first))
        ->toBeGreaterThan(1)
        ->and(implode(' ', asked($this)))
        ->toContain('/cy/llanw');
    // Asked again, and as it was: what the other address shows is not lost.
    survey($this, [$page->id]);
    expect($shown())->toBe($first);
    answers($this, "if (str_contains(\$path, '/llanw')) { http_response_code(404); return true; }");
    survey($this, [$page->id]);
    expect($shown())->toBe(array_values(array_diff($first, ['media/people/lise-holm.jpg'])));
});

it('lists what a page names in a way that nobody reads, and forgets it when it does not any more', function (): void {
    $page = Record::query()->where('address', 'tides')->firstOrFail();
    answers($this, "if (str_contains(\$path, '/tides')) { echo '<p data-x=\"left-09.jpg|left-10.jpg\">a</p>'"
        .".'<img src=\"/media/archive/left-11.jpg\">'; return true; }");
    survey($this, [$page->id]);
    $named = fn (): array => DB::table('mentions')
        ->where('source', 'page')
        ->where('record_id', $page->id)
        ->orderBy('stem')
        ->pluck('stem')
        ->all();
    expect($named())->toBe(['left-09', 'left-10'])
        ->and($this->item('archive/left-09.jpg')->refresh()->verdict)->toBe('ask')
        ->and($this->item('archive/left-09.jpg')->mentions)->toBe(1);
    answers($this, "if (str_contains(\$path, '/tides')) { echo '<p>a</p>'; return true; }");
    survey($this, [$page->id]);
    expect($named())->toBe([]);
});

it('survives any byte in an address, which is then what is said of that address', function (): void {
    $page = Record::query()->where('address', 'tides')->firstOrFail();
    answers($this, "if (str_contains(\$path, '/tides')) { echo '<img src=\"/media/%FC%00.jpg\"><a href=\"/s%FCd\">a</a>"
        ."<link rel=stylesheet href=\"/%FE.css\"><img src=\"/media/moved.jpg\">'; return true; }"
        ." if (str_contains(\$path, 'moved')) { header(\"Location: /media/%FF/\xfc.jpg\", true, 302); return true; }");
    $survey = survey($this, [$page->id]);
    expect($survey->state->value)->toBe('done')
        ->and(DB::table('visits')->where('url', 'like', '%/media/\%FC\%00.jpg')->value('status'))->toBe(404);
});

it('asks no host that nobody allowed, and says so', function (): void {
    $this->site()->update(['reach_at' => ['korrinbay.example' => $this->server->origin()]]);
    $survey = survey($this, pagesWithForeign());
    expect($survey->state)
        ->toBe(WorkState::Done)
        ->and($survey->total('media_not_asked'))
        ->toBeGreaterThan(20)
        ->and(implode(' ', asked($this)))
        ->not->toContain('shorelog')
        // Of what was not asked nothing is said.
        ->and(DB::table('findings')->where('outcome', 'foreign-gone')->count())
        ->toBe(0);
});

it('has a limit for what a page may be', function (string $php, string $why): void {
    $page = Record::query()->where('address', 'tides')->firstOrFail();
    answers($this, "if (\$path === '/tides') { $php touch('$this->notes/ended'); return true; }");
    $survey = survey($this, [$page->id]);
    expect($survey->state)
        ->toBe(WorkState::Done)
        // Nobody waited for what does not answer.
        ->and($why === 'does not answer' && file_exists("$this->notes/ended"))
        ->toBeFalse()
        ->and(DB::table('visits')->where('asked', 'tides')->value('problem') ?? '')
        ->toContain($why)
        ->and(memory_get_peak_usage())
        ->toBeLessThan(700 * 1024 * 1024);
})->with([
    'fifty megabytes' => ['for ($i = 0; $i < 50; $i++) { echo str_repeat("x ", 524288); }', 'larger than 8 MB'],
    'a small file that unpacks to much' => [
        'header("Content-Encoding: gzip"); echo gzencode(str_repeat("<img src=/media/x.png>", 5000000));',
        '',
    ],
    'a redirect to itself' => ['header("Location: /tides", true, 302);', ''],
    'no answer at all' => ['sleep(60);', 'does not answer'],
]);

it('counts no more than a page can have', function (): void {
    $page = Record::query()->where('address', 'tides')->firstOrFail();
    answers(
        $this,
        'if ($path === "/tides") { for ($i = 0; $i < 10000; $i++) { echo "<img src=/media/$i.png>"; } return true; }'
            .' if (str_starts_with($path, "/media/")) { http_response_code(404); return true; }',
    );
    $survey = survey($this, [$page->id]);
    expect($survey->total('pages_cut'))
        ->toBe(1)
        ->and(DB::table('sightings')->where('record_id', $page->id)->where('seen', true)->count())
        ->toBe(2000);
});

it('knows a foreign picture whose bytes are others than before', function (): void {
    survey($this, pagesWithForeign());
    $one = DB::table('visits')->where('host', 'pics.shorelog.example')->where('status', 200)->first();
    expect($one->fingerprint)->not->toBeNull();
    answers($this, <<<'PHP'
        if ($host === 'pics.shorelog.example') {
            header('Content-Type: image/png');
            echo 'other';
            return true;
        }
        PHP);
    survey($this, pagesWithForeign());
    expect(DB::table('findings')->where('outcome', 'changed-abroad')->count())
        ->toBeGreaterThan(0)
        ->and(DB::table('visits')->where('id', $one->id)->value('known_as'))
        ->toBe($one->fingerprint);
});

it('is one at a time, can be stopped, and is taken up when its worker died', function (): void {
    Queue::fake();
    $page = [Record::query()->where('address', 'tides')->firstOrFail()->id];
    $survey = app(Surveys::class)->begin($this->site(), null, $page);
    expect(fn () => app(Surveys::class)->begin($this->site(), null))->toThrow(AlreadySurveying::class);
    $survey->stop();
    expect($survey->refresh()->state)->toBe(WorkState::Stopped);
    $again = app(Surveys::class)->begin($this->site(), null, $page);
    expect($again->id)->toBe($survey->id);
    DB::table('surveys')->update(['worked_at' => now()->subMinutes(5)]);
    expect(app(Surveys::class)->recover())
        ->toBe(1)
        ->and(app(Surveyor::class)->work($again->refresh()->load('site')))
        ->toBeFalse()
        ->and($again->refresh()->state)
        ->toBe(WorkState::Done);
});

it('is asked for and stopped by who may, and lists what it saw', function (): void {
    $this->as(Role::Viewer)->postJson('/api/sites/korrin-bay/surveys')->assertForbidden();
    $this->getJson('/api/sites/korrin-bay/survey')
        ->assertOk()
        ->assertJsonPath('survey', null)
        ->assertJsonPath('sentence', 'No survey came to its end yet.');
    $this->as(Role::Maintainer)->postJson('/api/sites/korrin-bay/surveys')->assertStatus(202);
    $seen = $this->getJson('/api/sites/korrin-bay/survey')->assertOk()->json();
    expect($seen['survey']['state'])
        ->toBe('done')
        ->and($seen['figures']['pages'])
        ->toBe($seen['expected']);
    $first = $this->getJson('/api/sites/korrin-bay/survey/failing?limit=10')->assertOk()->json();
    $second = $this->getJson("/api/sites/korrin-bay/survey/failing?limit=10&offset={$first['next']}")->json();
    expect($first['total'])
        ->toBe($seen['figures']['failing'])
        ->and(array_intersect(array_column($first['rows'], 'url'), array_column($second['rows'], 'url')))
        ->toBe([])
        ->and($first['rows'][0]['pages'])
        ->toBeGreaterThan($second['rows'][0]['pages']);
    $this->getJson('/api/sites/korrin-bay/survey/nonsense')->assertNotFound();
    $this->artisan('ylema:survey', ['site' => 'korrin-bay', '--page' => ['/nowhere']])->assertExitCode(2);
    $this->artisan('ylema:survey', ['site' => 'korrin-bay', '--page' => ['/visit']])
        ->expectsOutputToContain('load on')
        ->assertExitCode(1);
});

it('finds nothing that does not load, and no dead link, once all is mended and decided', function (): void {
    survey($this);
    app(Adoptions::class)->begin($this->site(), ['pics.shorelog.example'], null);
    $this->apply(
        app(PlanDesk::class)->make(
            $this->site(),
            new AdoptPlanner(new AdoptRequest(['pics.shorelog.example'], true)),
            null,
        ),
    );
    // What somebody would decide: where the letters are, and that the rest goes.
    $decisions = ['journal/harbour-letter' => 'journal/harbour-letter-5'];
    $open = DB::table('findings')
        ->whereIn('outcome', ['missing-file', 'foreign-gone', 'dead-link'])
        ->distinct()
        ->pluck('asked');
    foreach ($open as $asked) {
        if (! isset($decisions[$asked])) {
            $decisions[$asked] = null;
        }
    }
    $plan = app(PlanDesk::class)->make(
        $this->site(),
        new RepairPlanner(new RepairRequest(OutcomeKind::findings(), $decisions)),
        null,
    );
    $change = $this->apply($plan);
    expect($change->counts['left-out'] ?? 0)->toBe(0)->and($change->counts['refused'] ?? 0)->toBe(0);
    // What the change itself found out, on the pages that it touches.
    $own = Survey::query()->where('change_id', $change->id)->firstOrFail();
    expect($own->state)
        ->toBe(WorkState::Done)
        ->and((new SurveyReport($this->site(), $own->pages))->sentence())
        ->toContain('none fails');
    app(ReadSite::class)->begin($this->site(), null);
    survey($this);
    $report = new SurveyReport($this->site());
    expect($report->failing(0, 10)['rows'])
        ->toBe([])
        ->and($report->figures()['dead_pages'])
        ->toBe(0)
        ->and(
            DB::table('findings')
                ->whereIn('outcome', array_column(OutcomeKind::broken(), 'value'))
                ->pluck('value')
                ->all(),
        )
        ->toBe([]);
});

it('says of a finding that was mended that it is back', function (): void {
    $change = $this->apply(
        app(PlanDesk::class)->make(
            $this->site(),
            new RepairPlanner(new RepairRequest([OutcomeKind::LetterCase])),
            null,
        ),
    );
    $this->as(Role::Viewer);
    $groups = fn (): array => $this->getJson('/api/sites/korrin-bay/findings/letter-case/groups')->json('groups');
    expect($groups())->toBe([]);
    $this->undo($change);
    expect(array_filter(array_column($groups(), 'back_at')))->toHaveCount(count($groups()));
});

it('puts a file back whose bytes are still given out at the former address', function (): void {
    $path = 'media/2014/gull-skerry-at-low-water.jpg';
    $bytes = (string) file_get_contents(self::folder()."/site/$path");
    self::content()->exec(
        "update entries set body = body || '<img src=\"/$path\">' where slug = 'contact'",
    );
    unlink(self::folder()."/site/$path");
    DB::table('files')->where('path', $path)->delete();
    DB::table('former_files')->where('path', $path)->delete();
    app(ReadSite::class)->begin($this->site(), null);
    DB::table('former_files')->where('path', $path)->delete();
    // A page that shows it at the former address made the survey ask there.
    answers($this, <<<'PHP'
        if ($path === '/contact') {
            echo '<img src="https://www.korrin-observatory.example/bay/media/2014/gull-skerry-at-low-water.jpg">';
            return true;
        }
        PHP);
    survey($this);
    $groups = $this->as(Role::Maintainer)
        ->getJson('/api/sites/korrin-bay/findings/missing-file/groups?limit=200')
        ->json('groups');
    expect(array_column($groups, 'bytes', 'asked')[$path])->toContain('korrin-observatory.example');
    $id = $this->postJson('/api/sites/korrin-bay/repairs', [
        'causes' => ['missing-file'],
        'decisions' => [['asked' => $path, 'path' => $path]],
    ])->assertCreated()->json('id');
    $change = $this->apply(Plan::query()->findOrFail($id));
    expect($change->sentence)
        ->toContain('1 file put back')
        ->and((string) file_get_contents(self::folder()."/site/$path"))
        ->toBe($bytes);
    $this->undo($change);
    expect(is_file(self::folder()."/site/$path"))->toBeFalse();
});

it('calls nothing idle that a page was seen to show', function (): void {
    expect($this->item('archive/unsorted-14.jpg')->standing)->toBe('idle');
    survey($this, [Record::query()->where('address', 'imprint')->firstOrFail()->id]);
    $item = $this->item('archive/unsorted-14.jpg');
    expect($item->standing)
        ->toBe('live')
        ->and($item->reach)
        ->toBe(1)
        ->and($this->as(Role::Viewer)->getJson("/api/sites/korrin-bay/media/$item->id")->json('seen_on'))
        ->toBe(1);
    self::content()->exec("update entries set state = 'draft' where slug = 'imprint'");
    app(ReadSite::class)->begin($this->site(), null);
});

it('tells apart what only a page shows that a cache made before the change', function (): void {
    $this->server->end();
    $this->server = new Loopback(__DIR__.'/public-site.php', [
        'STANDIN_DSN' => (string) config('demo.dsn'),
        'STANDIN_USER' => (string) config('demo.user'),
        'STANDIN_PASSWORD' => (string) config('demo.password'),
        'STANDIN_CACHE' => "$this->notes/cache",
        'STANDIN_CACHE_SECONDS' => '600',
        'SITE' => self::folder().'/site',
        'DRAWN' => dirname(__DIR__, 2).'/var/drawn',
        'ASKED' => "$this->notes/asked",
    ]);
    $this->site()->update(['reach_at' => ['korrinbay.example' => $this->server->origin()]]);
    survey($this);
    // A second is the least that a cache counts.
    sleep(2);
    $change = $this->apply(
        app(PlanDesk::class)->make(
            $this->site(),
            new RepairPlanner(new RepairRequest([OutcomeKind::LetterCase])),
            null,
        ),
    );
    $own = Survey::query()->where('change_id', $change->id)->firstOrFail();
    expect((new SurveyReport($this->site(), $own->pages))->sentence())
        ->toContain('only on pages that a cache made before the last change');
});

it('sees in a browser what only scripts put on a page', function (): void {
    if (! DeepVisitor::isThere()) {
        $this->markTestSkipped('This machine has no Chromium.');
    }
    $page = Record::query()->where('address', 'tides')->firstOrFail();
    // Another program of this machine, which no page may reach through Ylema.
    $secret = sys_get_temp_dir().'/ylema-secret-'.bin2hex(random_bytes(4)).'.php';
    file_put_contents($secret, '<?php touch(__FILE__.".asked");');
    $other = new Loopback($secret);
    answers($this, str_replace('OTHER', (string) $other->port, <<<'PHP'
        if ($path === '/tides') {
            echo '<body><script>for (const at of ["/med" + "ia/deep.png", "http://elsewhere.example/y.png"]) {'
                .'const i = new Image(); i.src = at; document.body.append(i); }'
                .'for (const host of ["127.0.0.1", "localhost", "korrinbay.example", "[::1]"]) {'
                .'fetch(`http://${host}:OTHER/secret`, { mode: "no-cors" }); }</script>';
            return true;
        }
        PHP));
    $survey = app(Surveys::class)->begin($this->site(), null, [$page->id], true)->refresh();
    expect($survey->state)
        ->toBe(WorkState::Done)
        ->and($survey->total('deep'))
        ->toBe(1)
        ->and($survey->total('deep_failed'))
        ->toBe(0)
        ->and(DB::table('sightings')->where('record_id', $page->id)->where('seen', true)->pluck('path')->all())
        ->toContain('media/deep.png')
        ->and(file_exists("$secret.asked"))
        ->toBeFalse();
    $other->end();
    @unlink($secret);
});
