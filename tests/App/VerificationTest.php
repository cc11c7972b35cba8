<?php

declare(strict_types=1);

use App\Changes\Journal;
use App\Changes\Verification;
use App\Models\Change;
use App\Outgoing\HostNames;
use App\Plans\PlanDesk;
use Illuminate\Support\Facades\Queue;
use Tests\App\Loopback;
use Ylema\Addresses\OutcomeKind;
use Ylema\Repair\RepairPlanner;
use Ylema\Repair\RepairRequest;

/*
 * Verification, on a public site of its own on loopback that answers as each case wants it.
 */

beforeEach(function (): void {
    Queue::fake();
    $this->touched();
    $this->answers = sys_get_temp_dir().'/ylema-answers-'.bin2hex(random_bytes(4)).'.php';
    file_put_contents($this->answers, '<?php http_response_code(404);');
    $this->server = new Loopback($this->answers);
    $this->site()->update(['reach_at' => ['korrinbay.example' => $this->server->origin()]]);
    $this->change = app(Journal::class)->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'), null, '');
    app(Journal::class)->work($this->change);
});

afterEach(function (): void {
    $this->server->end();
    unlink($this->answers);
});

/** @return array<string, mixed> the verification of the change, with what the site's pages answer */
function look(object $test, string $php): array
{
    file_put_contents($test->answers, '<?php '.$php);
    app(Verification::class)->look($test->change->refresh());

    return $test->change->refresh()->verification;
}

it('tells pages that show the new from those that show the old, and those that a cache keeps', function (
    string $php,
    string $verdict,
    string $words,
): void {
    $seen = look($this, $php);
    expect($seen['reached'])
        ->toBe(24)
        ->and(array_unique(array_column($seen['pages'], 'verdict')))
        ->toBe([$verdict])
        ->and($seen['pages'][0]['words'])
        ->toContain($words);
})->with([
    'the new' => ['echo "<img src=/media/people/lise-holm.w150.jpg>";', 'fresh', 'what the plan said'],
    'the old' => ['echo "<img src=/media/people/maren-oake.w150.jpg>";', 'old', 'not chosen or could not be written'],
    'the old, from a cache' => [
        'header("Age: 999"); echo "<img src=/media/people/maren-oake.jpg>";',
        'stale',
        '999 s ago',
    ],
    'neither, from a cache' => ['header("Age: 999"); echo "<p>x</p>";', 'stale', 'before the change'],
    'neither' => ['echo "<p>x</p>";', 'unclear', 'neither the old file nor the new one'],
    'both, where all places were chosen' => [
        'echo "<img src=/media/people/lise-holm.jpg><img src=/media/people/maren-oake.jpg>";',
        'old',
        'in another place still the old file',
    ],
    'the new, packed though nobody asked for that' => [
        'header("Content-Encoding: gzip"); echo gzencode("<img src=/media/people/lise-holm.jpg>");',
        'unclear',
        'came packed (gzip)',
    ],
    'something that is no page' => [
        'header("Content-Type: application/json"); echo "{}";',
        'unclear',
        'sent as application/json',
    ],
    'with a base' => ['echo "<base href=/media/people/><img src=lise-holm.jpg>";', 'fresh', 'what the plan said'],
    'the new, before a late base' => [
        'echo "<img src=/media/people/lise-holm.w150.jpg><base href=https://elsewhere.example/>";',
        'fresh',
        'what the plan said',
    ],
    'the old, in an encoding that only its sending says' => [
        'header("Content-Type: text/html; charset=utf-16le"); '
            .'echo iconv("UTF-8", "UTF-16LE", " x <img src=/media/people/maren-oake.w150.jpg>");',
        'old',
        'not chosen or could not be written',
    ],
    'an error' => ['http_response_code(500);', 'unreachable', 'answers 500'],
    'no answer' => ['posix_kill(getmypid(), 9);', 'unreachable', ''],
    'leading on within the site' => [
        'if (! str_ends_with($_SERVER["REQUEST_URI"], "/")) { header("Location: '
            .'https://korrinbay.example".$_SERVER["REQUEST_URI"]."/", true, 301); exit; } echo "<img '
            .'src=/media/people/lise-holm.jpg>";',
        'fresh',
        'what the plan said',
    ],
    'leading on to another site' => [
        'header("Location: https://elsewhere.example/", true, 302); echo "<img src=/media/people/lise-holm.jpg>";',
        'unreachable',
        'not the site\'s own',
    ],
    'going round in circles' => [
        'header("Location: ".$_SERVER["REQUEST_URI"], true, 302);',
        'unreachable',
        'round in circles',
    ],
]);

it('asks no host that the table does not say how to reach', function (): void {
    $this->site()->update(['reach_at' => ['elsewhere.example' => $this->server->origin()]]);
    $seen = look($this, 'touch(__FILE__.".asked");');
    expect(array_unique(array_column($seen['pages'], 'verdict')))
        ->toBe(['unreachable'])
        ->and($seen['pages'][0]['words'])
        ->toContain('was not told how to reach korrinbay.example')
        ->and(file_exists($this->answers.'.asked'))
        ->toBeFalse();
});

it('asks the public address itself once the owner allows it, and no other host', function (): void {
    // The name leads to this machine, as far as the test is concerned; nobody else could say where it leads.
    $this->app->bind(HostNames::class, fn (): HostNames => new class() extends HostNames
    {
        public function publicAddress(string $host): ?string
        {
            return $host === 'korrinbay.example' ? '127.0.0.1' : null;
        }
    });
    $this->site()->update(['address' => "http://korrinbay.example:{$this->server->port}/", 'reach_at' => []]);
    $this->change->unsetRelation('site');
    $page = 'echo "<img src=/media/people/lise-holm.jpg>";';
    expect(array_unique(array_column(look($this, $page)['pages'], 'verdict')))->toBe(['unreachable']);

    $this->artisan('ylema:site', ['site' => 'korrin-bay', '--ask-public' => 'yes'])->assertSuccessful();
    $this->change->unsetRelation('site');
    expect(array_unique(array_column(look($this, $page)['pages'], 'verdict')))->toBe(['fresh']);

    $this->site()->update(['address' => 'https://elsewhere.example/', 'aliases' => []]);
    $this->change->unsetRelation('site');
    expect(array_unique(array_column(look($this, $page)['pages'], 'verdict')))->toBe(['unreachable']);
});

it('expects the old again once the change is undone', function (): void {
    app(Journal::class)->undo($this->change->refresh(), null);
    app(Journal::class)->work($this->change);
    expect(
        array_unique(array_column(look($this, 'echo "<img src=/media/people/maren-oake.jpg>";')['pages'], 'verdict')),
    )
        ->toBe(['fresh'])
        ->and(
            array_unique(
                array_column(look($this, 'echo "<img src=/media/people/lise-holm.jpg>";')['pages'], 'verdict'),
            ),
        )
        ->toBe(['old']);
});

it('tells a page that a cache holds from a mended one, though both show the same files', function (): void {
    app(Journal::class)->undo($this->change->refresh(), null);
    app(Journal::class)->work($this->change);
    $plan = app(PlanDesk::class)->make(
        $this->site(),
        new RepairPlanner(new RepairRequest([OutcomeKind::FormerAddress])),
        null,
    );
    $this->change = app(Journal::class)->apply($plan, null, '');
    app(Journal::class)->work($this->change);
    $before = 'https://www.korrin-observatory.example/bay/media/people/maren-oake.w160.jpg';
    $verdicts = fn (string $php): array => array_unique(array_column(look($this, $php)['pages'], 'verdict'));
    // A style sheet of the site is among what is looked at.
    $now = $this->change->expectation['said'][0];
    expect($verdicts("header('Age: 999'); echo '<img src=\"$before\">';"))
        ->toBe(['stale'])
        ->and($verdicts("echo '<img src=\"$now\"> a{background:url($now)}';"))
        ->toBe(['fresh']);
});
