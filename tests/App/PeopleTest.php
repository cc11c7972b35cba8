<?php

declare(strict_types=1);

use App\Models\Role;
use App\Models\User;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Hash;

/*
 * People, by the command line: let in, given another role, signed out, sent away.
 */

beforeEach(fn () => $this->touched());

it('changes what somebody may, at once', function (): void {
    $this->as(Role::Viewer)
        ->patchJson('/api/sites/korrin-bay', ['ask_public' => false])
        ->assertForbidden();
    expect(Artisan::call('ylema:person', ['email' => 'viewer@korrinbay.example', '--role' => 'owner']))->toBe(0);
    auth()->user()?->refresh();
    $this->patchJson('/api/sites/korrin-bay', ['ask_public' => false])->assertOk();
});

it('ends an access: no sign-in, no session, and the name stays where changes tell it', function (): void {
    $person = User::query()->where('email', 'maintainer@korrinbay.example')->sole();
    DB::table('sessions')->insert([
        'id' => 'one',
        'user_id' => $person->id,
        'payload' => '',
        'last_activity' => time(),
    ]);
    $this->actingAs($person)->getJson('/api/sites')->assertOk();
    expect(Artisan::call('ylema:person', ['email' => $person->email, '--end' => true]))
        ->toBe(0)
        ->and(Artisan::output())
        ->toContain('access ended, signed out everywhere')
        ->and(DB::table('sessions')->where('user_id', $person->id)->count())
        ->toBe(0);
    $this->actingAs($person->refresh())->getJson('/api/sites')->assertForbidden();
    auth()->logout();
    $this->postJson('/api/session', ['email' => $person->email, 'password' => 'tidewater-demo'])->assertStatus(422);
    Artisan::call('ylema:person', ['email' => $person->email, '--again' => true]);
    $this->postJson('/api/session', ['email' => $person->email, 'password' => 'tidewater-demo'])->assertOk();
});

it('never leaves an installation without an owner', function (array $options): void {
    expect(Artisan::call('ylema:person', ['email' => 'owner@korrinbay.example', ...$options]))
        ->toBe(1)
        ->and(Artisan::output())
        ->toContain('is the last owner')
        ->and(User::query()->where('email', 'owner@korrinbay.example')->sole()->may(Role::Owner))
        ->toBeTrue();
})->with([[['--end' => true]], [['--role' => 'viewer']]]);

it('says what it does not understand', function (array $arguments, string $says): void {
    expect(Artisan::call('ylema:person', $arguments))->toBe(2)->and(Artisan::output())->toContain($says);
})->with([
    [['email' => 'nobody'], 'is not an e-mail address'],
    [['email' => 'nobody@example.org'], '--role makes one'],
    [['email' => 'viewer@korrinbay.example', '--role' => 'king'], 'viewer, maintainer or owner'],
]);

it('sets a password anew from standard input, without mail', function (): void {
    $process = proc_open(
        [
            PHP_BINARY,
            base_path('artisan'),
            'ylema:person',
            'viewer@korrinbay.example',
            '--password',
            '--no-interaction',
        ],
        [['pipe', 'r'], ['pipe', 'w'], ['redirect', 1]],
        $pipes,
        base_path(),
        [...getenv(), 'DB_DATABASE' => 'ylema_app'],
    );
    fwrite($pipes[0], "a long new password\n");
    fclose($pipes[0]);
    $says = stream_get_contents($pipes[1]);
    expect(proc_close($process))
        ->toBe(0, (string) $says)
        ->and(
            Hash::check(
                'a long new password',
                (string) DB::table('users')->where('email', 'viewer@korrinbay.example')->value('password'),
            ),
        )
        ->toBeTrue();
});

it('lets everybody change the own password, which ends all other sessions', function (): void {
    $this->as(Role::Viewer);
    $id = (int) auth()->id();
    foreach (['one', 'two'] as $session) {
        DB::table('sessions')->insert(['id' => $session, 'user_id' => $id, 'payload' => '', 'last_activity' => time()]);
    }
    $this->putJson('/api/account/password', ['current' => 'wrong', 'password' => 'a long new password'])
        ->assertStatus(422)
        ->assertSee('not your password of now');
    $this->putJson('/api/account/password', ['current' => 'tidewater-demo', 'password' => 'short'])
        ->assertStatus(422)
        ->assertSee('12 characters or more');
    expect(DB::table('sessions')->where('user_id', $id)->count())->toBe(2);
    $this->putJson('/api/account/password', ['current' => 'tidewater-demo', 'password' => 'a long new password'])
        ->assertStatus(204);
    expect(DB::table('sessions')->where('user_id', $id)->count())
        ->toBe(0)
        ->and(Hash::check('a long new password', (string) User::query()->findOrFail($id)->password))
        ->toBeTrue();
});

it('signs out everywhere', function (): void {
    $this->as(Role::Viewer);
    $id = (int) auth()->id();
    DB::table('sessions')->insert(['id' => 'one', 'user_id' => $id, 'payload' => '', 'last_activity' => time()]);
    $this->deleteJson('/api/account/sessions')->assertStatus(204);
    expect(DB::table('sessions')->where('user_id', $id)->count())->toBe(0);
    $this->getJson('/api/sites')->assertStatus(401);
});
