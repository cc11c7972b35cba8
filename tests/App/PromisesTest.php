<?php

declare(strict_types=1);

use App\Changes\AfterChange;
use App\Changes\CheckRedirects;
use App\Changes\Journal;
use App\Changes\Verification;
use App\Models\Change;
use App\Models\MediaItem;
use App\Models\Plan;
use App\Models\Role;
use App\Models\Site;
use App\Plans\MoveAsked;
use App\Plans\PlanDesk;
use App\Redirects\RedirectChecker;
use Illuminate\Support\Facades\Queue;
use Tests\App\Loopback;
use Ylema\Move\MovePlanner;
use Ylema\Redirects\Entry;
use Ylema\Redirects\RedirectPlanner;
use Ylema\Redirects\RedirectRequest;
use Ylema\Swap\Manner;

/*
 * What a plan says that visitors will meet is asked for afterwards, on a public site of its own on loopback.
 */

beforeEach(function (): void {
    Queue::fake();
    $this->touched();
    $this->answers = sys_get_temp_dir().'/ylema-answers-'.bin2hex(random_bytes(4)).'.php';
    file_put_contents($this->answers, '<?php http_response_code(404);');
    $this->server = new Loopback($this->answers);
    $this->site()->update(['reach_at' => ['korrinbay.example' => $this->server->origin()]]);
});

afterEach(function (): void {
    $this->server->end();
    unlink($this->answers);
});

/** A web server that gives out files itself, and asks the table of the site for all that is no picture. */
const FILES_ITSELF = <<<'PHP'
    $path = rawurldecode(parse_url($_SERVER['REQUEST_URI'], PHP_URL_PATH));
    $sent = ['/old-hours' => '/visit/times', '/tides/pdf' => '/tides', '/gone/a' => '/tides'];
    if (isset($sent[$path])) { header("Location: https://korrinbay.example{$sent[$path]}", true, 301); exit; }
    if (preg_match('~\.(jpg|png)$~', $path) && ! str_starts_with($path, '/media/staff/')) { http_response_code(404); }
    PHP;

/** One that asks it for everything. */
const ASKS_THE_TABLE = <<<'PHP'
    $path = rawurldecode(parse_url($_SERVER['REQUEST_URI'], PHP_URL_PATH));
    if (str_starts_with($path, '/media/people/')) {
        header('Location: https://korrinbay.example'.str_replace('/people/', '/staff/', $path), true, 301);
    }
    PHP;

function answer(object $test, string $php): void
{
    file_put_contents($test->answers, "<?php $php");
}

function planOfMove(Site $site): Plan
{
    $asked = MoveAsked::of($site, 'media/people', 'media/staff', true);

    return app(PlanDesk::class)->make($site, new MovePlanner($asked), null);
}

function looked(Change $change): Change
{
    app()->call([new AfterChange($change->id), 'handle']);

    return $change->refresh();
}

it('asks for the old addresses of a move, and says which lead nowhere until a check finds them', function (): void {
    answer($this, FILES_ITSELF);
    $plan = planOfMove($this->site());
    expect(implode(' ', $plan->outline['notes']))
        ->toContain('Whether the site\'s redirects come into play for')
        ->toContain('(.jpg');
    $change = app(Journal::class)->apply($plan, null, '');
    app(Journal::class)->work($change);
    $found = looked($change)->verification;
    $of = $found['redirects']['of'];
    expect($of)
        ->toBeGreaterThan(10)
        ->and($found['redirects']['asked'])
        ->toBe(min(200, $of))
        ->and($found['redirects']['right'])
        ->toBe(0)
        ->and($found['unkept'])
        ->toBe($found['redirects']['asked'])
        ->and($found['redirects']['rows'][0])
        ->toMatchArray(['verdict' => 'missing', 'words' => 'Visitors get 404: whatever serves the site does not know '
            .'this redirect.']);
    $desk = $this->as(Role::Viewer)->getJson('/api/sites/korrin-bay/desk')->assertOk()->json('unkept_changes');
    expect($desk)->toBe([['id' => $change->id, 'title' => $change->title, 'unkept' => $found['unkept']]]);

    // Told by what was just asked for, the next plan knows.
    $next = MoveAsked::of($this->site(), 'media/staff', 'media/crew', true);
    $notes = app(PlanDesk::class)->make($this->site(), new MovePlanner($next), null)->outline['notes'];
    expect(implode(' ', $notes))->toContain('do not come into play for')->toContain('Visitors get 404');

    answer($this, ASKS_THE_TABLE);
    app()->call([new CheckRedirects($this->site()->id), 'handle']);
    expect($change->refresh()->verification['unkept'])
        ->toBe(0)
        ->and($change->verification['redirects']['right'])
        ->toBe($found['redirects']['asked'])
        ->and($this->getJson('/api/sites/korrin-bay/desk')->json('unkept_changes'))
        ->toBe([]);
});

it('promises nothing more of what is taken back, and asks for what comes back with it', function (): void {
    answer($this, FILES_ITSELF);
    $request = new RedirectRequest([new Entry('gone/a', '/tides')], ['tides/pdf']);
    $plan = app(PlanDesk::class)->make($this->site(), new RedirectPlanner($request), null);
    expect($plan->outline['notes'])->toBe([]);
    $change = app(Journal::class)->apply($plan, null, '');
    app(Journal::class)->work($change);
    expect(looked($change)->verification['redirects'])->toMatchArray(['of' => 1, 'asked' => 1, 'right' => 1]);
    app(Journal::class)->undo($change, null);
    app(Journal::class)->work($change->refresh());
    answer($this, 'http_response_code(404);');
    expect(looked($change)->verification['redirects'])
        ->toMatchArray(['of' => 1, 'asked' => 1, 'right' => 0])
        ->and($change->verification['redirects']['rows'][0]['from'])
        ->toBe('tides/pdf');
});

it('does not call an address kept that could not be asked for', function (): void {
    $this->site()->update(['reach_at' => []]);
    $plan = planOfMove($this->site());
    $change = app(Journal::class)->apply($plan, null, '');
    app(Journal::class)->work($change);
    $redirects = looked($change)->verification['redirects'];
    expect($redirects['right'])->toBe(0)->and($redirects['unknown'])->toBe($redirects['asked'])->not->toBe(0);
});

it('says of a redirect to another site that nobody asked there', function (): void {
    answer($this, 'header("Location: https://elsewhere.example/x", true, 301);');
    $check = app(RedirectChecker::class)->ask($this->site(), [new Entry('a', 'https://elsewhere.example/x')])[0];
    expect($check->words)->toBe('Whether https://elsewhere.example/x answers was not asked: it is of another site.');
});

it('looks at a part of many pages, says so, and at all of them where that is asked for', function (): void {
    answer($this, 'echo "<img src=/media/people/lise-holm.jpg>";');
    $everywhere = MediaItem::query()
        ->whereHas('references', fn ($q) => $q->whereRelation('record', 'everywhere', true))
        ->firstOrFail()->path;
    $change = app(Journal::class)->apply(
        $this->plan(substr($everywhere, 6), 'people/lise-holm.jpg'),
        null,
        '',
    );
    app(Journal::class)->work($change);
    $found = looked($change)->verification;
    expect($found['asked'])->toBe(60)->and($found['reached'])->toBeGreaterThan(100);
    $this->as(Role::Maintainer)
        ->postJson("/api/sites/korrin-bay/changes/$change->id/verify", ['whole' => true])
        ->assertStatus(202);
    Queue::assertPushed(AfterChange::class);
    expect($change->refresh()->verification)->toBeNull();
    app()->call([new AfterChange($change->id), 'handle']);
    $whole = $change->refresh()->verification;
    expect($whole['asked'])
        ->toBe($found['reached'])
        ->and($whole['whole'])
        ->toBeTrue()
        ->and(count($whole['pages']))
        ->toBeGreaterThanOrEqual($found['reached']);
});

it('finds purged pages fresh in every change that waits for them', function (): void {
    $first = app(Journal::class)->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'), null, '');
    app(Journal::class)->work($first);
    looked($first);
    $second = app(Journal::class)->apply($this->plan('people/lise-holm.jpg', 'people/tobin-vale.jpg'), null, '');
    app(Journal::class)->work($second);
    $purged = $this->answers.'.purged';
    answer($this, <<<PHP
        clearstatcache();
        if (! file_exists('$purged')) { header('Age: 9999'); }
        echo '<img src=/media/people/'.(file_exists('$purged') ? 'tobin-vale' : 'maren-oake').'.jpg>';
        PHP);
    expect(looked($first)->verification['stale'])->toBeGreaterThan(10);
    expect(looked($second)->verification['stale'])->toBeGreaterThan(10);
    // PHP's own server knows no such method, so the cache forgets by itself.
    touch($purged);
    app(Verification::class)->purge($second);
    @unlink($purged);
    expect($second->refresh()->verification['stale'])
        ->toBe(0)
        ->and($first->refresh()->verification['stale'])
        ->toBe(0);
});

it('tells the right bytes from how they are sent', function (string $headers, string $verdict, string $words): void {
    $change = app(Journal::class)->apply(
        $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg', Manner::SameAddress),
        null,
        '',
    );
    app(Journal::class)->work($change);
    answer($this, $headers.' readfile("'.self::folder().'/site".parse_url($_SERVER["REQUEST_URI"], PHP_URL_PATH));');
    $files = looked($change)->verification['files'];
    expect($files)->not->toBe([])->and(array_unique(array_column($files, 'verdict')))->toBe([$verdict]);
    expect(implode(' ', array_column($files, 'words')))->toContain($words);
})->with([
    'as a picture' => ['header("Content-Type: image/jpeg");', 'fresh', ''],
    'as text' => ['header("Content-Type: text/plain");', 'unclear', 'a browser may not show them'],
    'to be kept for long' => [
        'header("Content-Type: image/jpeg"); header("Cache-Control: public, max-age=31536000");',
        'fresh',
        'may keep it for 365 days',
    ],
]);
