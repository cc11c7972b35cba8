<?php

declare(strict_types=1);

use App\Connect\ProposeForDraft;
use App\Models\Draft;
use App\Models\Role;
use App\Models\Site;
use App\Support\WorkLock;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Tests\App\Connect\SecondSite;
use Tests\App\Sources\SshServer;
use Tests\App\Surroundings;

/*
 * A site is connected in the browser, in steps that can be left and taken up again.
 */

beforeEach(function (): void {
    $this->touched();
    $this->folder = self::folder().'/mill';
    SecondSite::mill($this->folder);
    $this->asked = [
        'name' => 'Hollin Mill',
        'address' => 'https://hollinmill.example/',
        'former' => ['https://old-mill.example/'],
        'engine' => 'mariadb',
        'host' => '127.0.0.1',
        'port' => SecondSite::port(),
        'database' => Surroundings::own()->named('sources'),
        'user' => 'sources',
        'password' => (string) getenv('MARIA_PASSWORD'),
        'files' => $this->folder,
    ];
});

it('says, tries, proposes, asks, changes and connects', function (): void {
    $draft = $this->as(Role::Owner)->postJson('/api/drafts', $this->asked)->assertCreated()->json();
    expect(array_column($draft['tested'], 'good'))
        ->not->toContain(false)
        ->and($draft['said']['has_password'])
        ->toBeTrue()
        ->and(json_encode($draft))
        ->not->toContain((string) getenv('MARIA_PASSWORD'))
        ->and(DB::table('drafts')->value('said'))
        ->not->toContain('sources')
        ->and($draft['map'])
        ->toBeNull();
    // Said again without its password, it keeps the one of before.
    $this->putJson("/api/drafts/{$draft['id']}", [...$this->asked, 'password' => null])
        ->assertOk()
        ->assertJsonPath('tested.0.good', true);
    $this->postJson("/api/drafts/{$draft['id']}/proposal")->assertStatus(202);
    $draft = $this->getJson("/api/drafts/{$draft['id']}")
        ->assertOk()
        ->assertJsonPath('state', 'proposed')
        ->json();
    $question = array_values(
        array_filter($draft['questions'], static fn (array $q): bool => $q['id'] === 'hm_menu.where'),
    )[0];
    expect($question['answers'][0]['id'])
        ->toBe('everywhere')
        ->and(array_column($draft['kinds'], 'kind'))
        ->toContain('banner', 'page', 'setting')
        ->and(array_column($draft['left_out'], 'table'))
        ->toContain('hm_cache');
    $this->postJson("/api/drafts/{$draft['id']}/proposal", ['answers' => ['hm_menu.where' => 'nowhere']])->assertStatus(
        202,
    );
    $draft = $this->getJson("/api/drafts/{$draft['id']}")->json();
    expect($draft['map'])->not->toMatch('~table: hm_menu\n(?:    .*\n)*    everywhere: true~');
    // A map that cannot be read is refused with its line, and the one of before is kept.
    $this->putJson("/api/drafts/{$draft['id']}/map", [
        'map' => "version: 1\nfiles: { folders: [files] }\nrecords:\n  page: { tabel: x }",
    ])
        ->assertStatus(422)
        ->assertSee('Did you mean');
    expect($this->getJson("/api/drafts/{$draft['id']}")->json('map'))->toBe($draft['map']);
    $this->postJson("/api/drafts/{$draft['id']}/site")
        ->assertCreated()
        ->assertJsonPath('slug', 'hollin-mill');
    $site = Site::query()->where('slug', 'hollin-mill')->sole();
    expect($site->writes)
        ->toBeFalse()
        ->and($site->read_at)
        ->not->toBeNull()
        ->and(Draft::query()->count())
        ->toBe(0);
    $this->patchJson('/api/sites/hollin-mill', ['writes' => true])
        ->assertOk()
        ->assertJsonPath('writes', true);
});

it('finds an address of before that nobody told, and keeps it with the site', function (): void {
    $add = SecondSite::maria()->prepare('update hm_node_text set body = concat(body, ?) where id = ?');
    $files = array_slice(glob("$this->folder/*/*/*.jpg") ?: [], 0, 4);
    foreach ($files as $n => $file) {
        $address = 'http://mill.before.example/'.rawurlencode(substr($file, strlen("$this->folder/")));
        $add->execute(['<img src="'.str_replace('%2F', '/', $address).'">', $n + 1]);
    }
    $draft = $this->as(Role::Owner)->postJson('/api/drafts', [...$this->asked, 'former' => []])->json();
    $this->postJson("/api/drafts/{$draft['id']}/proposal")->assertStatus(202);
    $questions = $this->getJson("/api/drafts/{$draft['id']}")->json('questions');
    $isAddress = static fn (array $question): bool => str_starts_with($question['id'], 'address.');
    $asked = array_values(array_filter($questions, $isAddress));
    expect($asked)->toHaveCount(1)->and($asked[0]['answers'][0]['id'])->toBe('former');
    $root = substr($asked[0]['id'], strlen('address.'));
    $answer = fn (string $id) => $this->postJson("/api/drafts/{$draft['id']}/proposal", [
        'answers' => ["address.$root" => $id],
    ])->assertStatus(202);
    $answer('foreign');
    expect(Draft::query()->sole()->proposal['former'])->toBe([]);
    $answer('former');
    $this->postJson("/api/drafts/{$draft['id']}/site")->assertCreated();
    expect(Site::query()->where('slug', 'hollin-mill')->sole()->former)->toBe([$root]);
});

it('says at once what is wrong, and can be taken up again', function (): void {
    $draft = $this->as(Role::Owner)
        ->postJson('/api/drafts', [...$this->asked, 'password' => 'wrong'])
        ->assertCreated()
        ->json();
    expect(
        array_values(array_filter($draft['tested'], static fn (array $f): bool => ! $f['good']))[0]['words'],
    )->toContain('Check user, password and database name');
    $this->getJson('/api/drafts')->assertOk()->assertJsonPath('drafts.0.name', 'Hollin Mill');
    $this->postJson("/api/drafts/{$draft['id']}/site")
        ->assertStatus(422)
        ->assertSee('There is no field map yet');
    $this->postJson("/api/drafts/{$draft['id']}/proposal")->assertStatus(202);
    $this->getJson("/api/drafts/{$draft['id']}")
        ->assertJsonPath('state', 'failed')
        ->assertSee('does not let the user');
    $this->putJson("/api/drafts/{$draft['id']}", $this->asked)
        ->assertOk()
        ->assertJsonPath('state', 'new');
    $this->deleteJson("/api/drafts/{$draft['id']}")->assertStatus(204);
    expect(Draft::query()->count())->toBe(0);
    $this->postJson('/api/drafts', [...$this->asked, 'address' => 'the mill'])
        ->assertStatus(422)
        ->assertSee('no whole address');
});

it('cannot be switched to writing where the source does not let it', function (): void {
    $this->as(Role::Owner);
    $draft = $this->postJson('/api/drafts', [...$this->asked, 'user' => 'looker'])
        ->assertCreated()
        ->json();
    $this->postJson("/api/drafts/{$draft['id']}/proposal")->assertStatus(202);
    $this->postJson("/api/drafts/{$draft['id']}/site")->assertCreated();
    $this->patchJson('/api/sites/hollin-mill', ['writes' => true])
        ->assertStatus(422)
        ->assertSee('may not write');
    expect(Site::query()->where('slug', 'hollin-mill')->value('writes'))->toBeFalse();
});

it('takes files on another machine, keeps their key, and never answers it', function (): void {
    $keys = self::folder().'/keys';
    shell_exec('rm -rf '.escapeshellarg($keys));
    mkdir($keys, 0o700);
    $server = new SshServer($keys);
    try {
        $said = $server->said($this->folder);
        $remote = [
            'kind' => 'sftp',
            'key' => (string) file_get_contents("$keys/user"),
            ...array_map(strval(...), array_diff_key($said, ['key_file' => 1])),
        ];
        $asked = [...$this->asked, 'files' => null, 'remote' => $remote];
        $draft = $this->as(Role::Owner)->postJson('/api/drafts', $asked)->assertCreated()->json();
        expect(array_column($draft['tested'], 'good'))
            ->not->toContain(false)
            ->and($draft['said']['remote'])
            ->toMatchArray(['kind' => 'sftp', 'has_secret' => true, 'host' => '127.0.0.1'])
            ->and(json_encode($draft))
            ->not->toContain('PRIVATE KEY');
        $again = [...$asked, 'remote' => array_diff_key($remote, ['key' => 1])];
        $draft = $this->putJson("/api/drafts/{$draft['id']}", $again)->assertOk()->json();
        expect(array_column($draft['tested'], 'good'))->not->toContain(false);
        $draft = $this->putJson("/api/drafts/{$draft['id']}", [
            ...$again,
            'remote' => [...$again['remote'], 'user' => 'nobody-here'],
        ])->json();
        expect(end($draft['tested'])['words'])->toContain('does not let "nobody-here" in');
        $this->postJson('/api/drafts', [...$asked, 'remote' => ['kind' => 'sftp', 'host' => 'h']])
            ->assertStatus(422)
            ->assertSee('files.sftp.user: this is missing');
    } finally {
        $server->end();
    }
});

it('says that a worker was killed while it worked a map out, and waits for one that has not begun', function (): void {
    $this->as(Role::Owner);
    $said = ['name' => 'Mill', 'address' => 'https://mill.example/', 'content' => '/nowhere', 'files' => '/nowhere'];
    $draft = Draft::query()->create(['said' => $said, 'state' => 'proposing']);
    $this->getJson("/api/drafts/$draft->id")->assertOk()->assertJsonPath('state', 'proposing');
    $draft->update(['begun_at' => now()]);
    // A worker lives in a connection of its own.
    config(['database.connections.beside' => config('database.connections.pgsql')]);
    DB::connection('beside')->select('select pg_advisory_lock(?, ?)', [WorkLock::DRAFT, $draft->id]);
    $this->getJson("/api/drafts/$draft->id")->assertOk()->assertJsonPath('state', 'proposing');
    DB::purge('beside');
    $this->getJson("/api/drafts/$draft->id")
        ->assertOk()
        ->assertJsonPath('state', 'failed')
        ->assertSee('Ask for it again');
    // What comes too late takes nothing back.
    $draft->update(['state' => 'proposed']);
    (new ProposeForDraft($draft->id))->failed(null);
    expect($draft->refresh()->state)->toBe('proposed');
});

it('says within a minute that a worker was killed before it began', function (): void {
    $said = ['name' => 'Mill', 'address' => 'https://mill.example/', 'content' => '/nowhere', 'files' => '/nowhere'];
    $drafts = array_map(
        static fn (): Draft => Draft::query()->create(['said' => $said, 'state' => 'proposing']),
        range(1, 3),
    );
    [$lost, $waits, $fresh] = $drafts;
    DB::table('drafts')->whereIn('id', [$lost->id, $waits->id])->update(['updated_at' => now()->subMinute()]);
    Queue::connection('database')->push(new ProposeForDraft($waits->id));
    Queue::connection('database')->push(new ProposeForDraft($lost->id));
    // Taken by a worker that is no more.
    DB::table('jobs')->where('payload', 'like', "%draftId%i:$lost->id;%")->update(['reserved_at' => time() - 50]);
    $this->artisan('ylema:recover')->assertSuccessful();
    $states = array_map(static fn (Draft $draft): string => $draft->refresh()->state, $drafts);
    expect($states)->toBe(['failed', 'proposing', 'proposing'])->and($lost->problem)->toContain('Ask for it again');
    DB::table('jobs')->delete();
    $fresh->delete();
});
