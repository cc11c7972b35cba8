<?php

declare(strict_types=1);

use App\Adopt\Adoptions;
use App\Adopt\AlreadyFetching;
use App\Adopt\Fetcher;
use App\Adopt\ForeignHosts;
use App\Models\Adoption;
use App\Models\ChangeState;
use App\Models\Plan;
use App\Models\Role;
use App\Models\WorkState;
use App\Reading\ReadSite;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Tests\App\Loopback;

/*
 * Pictures of other hosts brought home, from a host that answers as such hosts do.
 */

beforeEach(function (): void {
    $this->touched();
    $this->notes = sys_get_temp_dir().'/ylema-adopt-'.bin2hex(random_bytes(4));
    mkdir($this->notes, 0o700);
    touch("$this->notes/asked");
    $this->server = new Loopback(__DIR__.'/public-site.php', [
        'DRAWN' => dirname(__DIR__, 2).'/var/drawn',
        'ASKED' => "$this->notes/asked",
    ]);
    $this->site()->update(['reach_at' => ['pics.shorelog.example' => $this->server->origin()]]);
});

afterEach(function (): void {
    $this->server->end();
    shell_exec('rm -rf '.escapeshellarg($this->notes));
});

/** @return array<string, string|null> name → why it cannot be had */
function fetched(): array
{
    return DB::table('foreign_files')
        ->get(['url', 'reason'])
        ->mapWithKeys(static fn (object $row): array => [basename($row->url) => $row->reason])
        ->all();
}

it('fetches each picture once, judges it by its bytes, and says why one cannot be had', function (): void {
    $this->as(Role::Maintainer)
        ->postJson('/api/sites/korrin-bay/adoptions', ['hosts' => ['pics.shorelog.example']])
        ->assertStatus(202);
    $seen = fetched();
    expect($seen['slow.jpg'])
        ->toBeNull()
        ->and($seen['moved.jpg'])
        ->toBeNull()
        ->and($seen['new.jpg'])
        ->toBeNull()
        ->and($seen['page.jpg'])
        ->toContain('not a picture')
        ->and($seen['script.svg'])
        ->toContain('script')
        ->and($seen['vast.png'])
        ->toContain('20,000')
        ->and($seen['round.jpg'])
        ->toContain('302')
        // A redirect into the server's own network leads nowhere.
        ->and($seen['away.jpg'])
        ->toContain('302')
        ->and($seen['40-0.jpg'] ?? $seen['88-3.jpg'])
        ->toContain('404');
    $asked = array_count_values(file("$this->notes/asked", FILE_IGNORE_NEW_LINES) ?: []);
    expect($asked['GET pics.shorelog.example/p/odd/new.jpg '])->toBe(1);
    $hosts = $this->getJson('/api/sites/korrin-bay/hosts')->assertOk()->json();
    expect($hosts['hosts'][0]['host'])
        ->toBe('pics.shorelog.example')
        ->and($hosts['hosts'][0]['decision'])
        ->toBe('adopt')
        ->and($hosts['adoption']['fetched'] + $hosts['adoption']['refused'])
        ->toBe($hosts['adoption']['expected'])
        ->and(DB::table('findings')->where('outcome', 'foreign-gone')->count())
        ->toBeGreaterThan(5);
    // What is kept is not asked for again.
    $this->postJson('/api/sites/korrin-bay/adoptions', ['hosts' => ['pics.shorelog.example']])->assertStatus(202);
    $again = array_count_values(file("$this->notes/asked", FILE_IGNORE_NEW_LINES) ?: []);
    expect($again['GET pics.shorelog.example/p/odd/new.jpg '])->toBe(1);
});

it('makes items of them, has the places name those, and takes it back byte for byte', function (): void {
    $before = self::contentValue("select md5(string_agg(body, '|' order by id)) from entries");
    $rows = self::contentValue('select count(*) from media');
    $this->as(Role::Maintainer)
        ->postJson('/api/sites/korrin-bay/adoptions', ['hosts' => ['pics.shorelog.example']]);
    $id = $this->postJson('/api/sites/korrin-bay/adoptions/plan', [
        'hosts' => ['pics.shorelog.example'],
        'pasted' => true,
    ])->assertCreated()->json('id');
    $change = $this->apply(Plan::query()->findOrFail($id));
    expect($change->state)
        ->toBe(ChangeState::Applied)
        ->and(self::contentValue("select count(*) from entries where body like '%shorelog.example/p/8-3.jpg%'"))
        ->toBe('0')
        ->and(self::contentValue("select count(*) from entries where body like '%data:image%'"))
        ->toBe('0')
        ->and(self::contentValue("select credit from media where credit like 'From https://pics%' limit 1"))
        ->toContain('https://pics.shorelog.example/p/');
    app(ReadSite::class)->begin($this->site(), null);
    expect(DB::table('findings')->where('outcome', 'pasted')->count())
        ->toBe(0)
        ->and(DB::table('findings')->where('outcome', 'foreign-host')->count())
        ->toBe(0)
        // One picture lies under two addresses, and is here once.
        ->and(DB::table('media_items')->where('path', 'like', 'media/'.date('Y').'/a-sketch%')->count())
        ->toBe(1);
    $this->undo($change);
    expect(self::contentValue("select md5(string_agg(body, '|' order by id)) from entries"))
        ->toBe($before)
        ->and(self::contentValue('select count(*) from media'))
        ->toBe($rows);
});

it('lets a host be allowed, which ends its findings, and that be taken back', function (): void {
    $this->as(Role::Maintainer);
    $count = fn (): int => DB::table('findings')->where('outcome', 'foreign-host')->count();
    $before = $count();
    $this->putJson('/api/sites/korrin-bay/hosts/pics.shorelog.example', ['decision' => 'allow'])
        ->assertOk()
        ->assertJsonPath('hosts.0.decision', 'allow');
    expect($count())->toBe(0);
    $this->putJson('/api/sites/korrin-bay/hosts/pics.shorelog.example', ['decision' => null])->assertOk();
    expect($count())->toBe($before);
    $this->putJson('/api/sites/korrin-bay/hosts/elsewhere.example', ['decision' => 'allow'])->assertStatus(409);
    $this->as(Role::Viewer)
        ->putJson('/api/sites/korrin-bay/hosts/pics.shorelog.example', ['decision' => 'allow'])
        ->assertForbidden();
});

it('asks no host that the site does not say how to reach', function (): void {
    $this->site()->update(['reach_at' => []]);
    app(Adoptions::class)->begin($this->site(), ['pics.shorelog.example'], null);
    expect(array_unique(fetched()))
        ->toHaveCount(1)
        ->and(current(fetched()))
        ->toContain('was not told how to reach pics.shorelog.example')
        ->and(file("$this->notes/asked"))
        ->toBe([]);
});

it('is one at a time, can be stopped, goes on, and leaves a silent host in peace', function (): void {
    Queue::fake();
    $adoption = app(Adoptions::class)->begin($this->site(), ['pics.shorelog.example'], null);
    expect(fn () => app(Adoptions::class)->begin($this->site(), ['x.example'], null))->toThrow(AlreadyFetching::class);
    $adoption->stop();
    expect($adoption->refresh()->state)->toBe(WorkState::Stopped);
    $this->server->end();
    $again = app(Adoptions::class)->begin($this->site(), ['pics.shorelog.example'], null);
    expect(app(Fetcher::class)->work(Adoption::query()->with('site')->find($again->id)))->toBeFalse();
    expect($again->refresh()->state)
        ->toBe(WorkState::Done)
        ->and($again->total('fetched'))
        ->toBe(0)
        ->and(implode(' ', fetched()))
        ->toContain('did not answer 3 times in a row');
    $this->server = new Loopback(__DIR__.'/public-site.php', ['ASKED' => "$this->notes/asked"]);
});

it('does it on the command line', function (): void {
    $this->artisan('ylema:adopt', ['site' => 'korrin-bay', '--host' => ['nowhere.example']])->assertExitCode(2);
    $this->artisan('ylema:adopt', ['site' => 'korrin-bay', '--dry-run' => true])
        ->expectsOutputToContain('cannot be had')
        ->expectsOutputToContain('Bring home from pics.shorelog.example')
        ->assertSuccessful();
    expect(self::contentValue("select count(*) from media where credit like 'From https://pics%'"))->toBe('0');
    $this->artisan('ylema:adopt', ['site' => 'korrin-bay', '--pasted' => true])->assertSuccessful();
    expect((new ForeignHosts($this->site()))->pasted()['references'])->toBe(0);
});
