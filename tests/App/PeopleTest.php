<?php

declare(strict_types=1);

use App\Models\Role;
use App\Models\User;
use App\People\Letter;
use App\People\People;
use App\People\PersonRefused;
use App\People\WaysIn;
use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Mail;

/*
 * People, by the command line and in the browser: invited, given another role, signed out, sent away.
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
        ->toBe(4)
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
        getenv(),
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

it('writes down who came in and who was refused, and never what they typed', function (): void {
    $said = [];
    Log::listen(static function (object $event) use (&$said): void {
        $said[] = $event->message.' '.json_encode($event->context);
    });
    $person = self::person(Role::Viewer);
    $this->postJson('/api/session', ['email' => $person->email, 'password' => 'secret-typed-wrong'])->assertStatus(422);
    $this->postJson('/api/session', ['email' => 'secret-typed-here', 'password' => 'x'])->assertStatus(422);
    $this->postJson('/api/session', ['email' => $person->email, 'password' => 'tidewater-demo'])->assertOk();
    $this->patchJson("/api/people/{$person->id}", ['role' => 'owner'])->assertForbidden();
    $this->deleteJson('/api/session')->assertNoContent();
    $all = implode("\n", $said);
    $refused = json_encode(['person' => $person->id, 'by' => null, 'from' => '127.0.0.1']);
    expect($all)->toContain("People: a sign-in was refused $refused")
        ->toContain('People: a sign-in was refused {"person":null')
        ->toContain("People: signed in {\"by\":{$person->id}")
        ->toContain('People: an access was refused')
        ->toContain("People: signed out {\"by\":{$person->id}")
        ->not->toContain('secret-typed');
});

it('signs out everywhere', function (): void {
    $this->as(Role::Viewer);
    $id = (int) auth()->id();
    DB::table('sessions')->insert(['id' => 'one', 'user_id' => $id, 'payload' => '', 'last_activity' => time()]);
    $this->deleteJson('/api/account/sessions')->assertStatus(204);
    expect(DB::table('sessions')->where('user_id', $id)->count())->toBe(0);
    $this->getJson('/api/sites')->assertStatus(401);
});

/** @return array{email: string, token: string} what a link carries behind its "#" */
function carried(string $link): array
{
    parse_str((string) parse_url($link, PHP_URL_FRAGMENT), $said);

    return ['email' => $said['email'], 'token' => $said['token']];
}

it('invites somebody by a link that works once', function (): void {
    $asked = ['email' => ' Ida.Brandt@Korrinbay.example', 'name' => 'Ida Brandt', 'role' => 'maintainer'];
    $said = $this->as(Role::Owner)->postJson('/api/people', $asked)->assertCreated()->json();
    expect($said['person'])
        ->toMatchArray(['email' => 'ida.brandt@korrinbay.example', 'role' => 'maintainer', 'state' => 'invited'])
        ->and($said['sent'])
        ->toBeFalse()
        ->and($said['said'])
        ->toContain('ends in seven days')
        ->and(DB::table('invitations')->value('token'))
        ->not->toContain(carried($said['link'])['token']);
    $this->postJson('/api/people', $asked)->assertStatus(409)->assertSee('There is an account');
    auth()->logout();

    $way = carried($said['link']);
    $this->postJson('/api/welcome/check', $way)->assertOk()->assertJson(['name' => 'Ida Brandt', 'first' => true]);
    $this->postJson('/api/welcome', [...$way, 'password' => 'short'])->assertStatus(422);
    $this->postJson('/api/welcome', [...$way, 'token' => 'another', 'password' => 'a long new password'])
        ->assertStatus(409)
        ->assertSee('has ended, or was used already');
    $this->postJson('/api/welcome', [...$way, 'password' => 'a long new password'])->assertStatus(204);
    $this->getJson('/api/session')->assertJsonPath('user.role', 'maintainer');
    auth()->logout();
    $this->postJson('/api/welcome', [...$way, 'password' => 'one more password'])->assertStatus(409);
    $this->postJson('/api/session', ['email' => $way['email'], 'password' => 'a long new password'])->assertOk();
});

it('ends a link with its time, with a newer one, and with the access', function (string $ends): void {
    $person = User::query()->where('email', 'viewer@korrinbay.example')->sole();
    $way = carried(app(WaysIn::class)->make($person)->address);
    $this->postJson('/api/welcome/check', $way)->assertOk()->assertJson(['first' => false]);
    match ($ends) {
        'time' => $this->travel(61)->minutes(),
        'newer' => app(WaysIn::class)->make($person),
        'access' => $person->forceFill(['ended_at' => now()])->save(),
    };
    $this->postJson('/api/welcome', [...$way, 'password' => 'a long new password'])->assertStatus(409);
})->with(['time', 'newer', 'access']);

it('ends a link for good with the access, also for whoever is let in again', function (bool $isInvited): void {
    $person = User::query()->where('email', 'viewer@korrinbay.example')->sole();
    $person->forceFill(['joined_at' => $isInvited ? null : now()])->save();
    $way = carried(app(WaysIn::class)->make($person)->address);
    app(People::class)->end($person);
    app(People::class)->letInAgain($person);
    $this->postJson('/api/welcome/check', $way)->assertStatus(409);
    $this->postJson('/api/welcome', [...$way, 'password' => 'a long new password'])->assertStatus(409);
})->with(['a password' => [false], 'an invitation' => [true]]);

it('sends the link by mail where that is set, and shows it where the server does not take it', function (): void {
    config(['mail.default' => 'smtp', 'mail.mailers.smtp.port' => 1]);
    $said = $this->as(Role::Owner)->postJson('/api/people', ['email' => 'a@example.org', 'role' => 'viewer'])->json();
    expect($said['sent'])->toBeFalse()->and($said['link'])->toContain('/welcome#')->and($said['said'])->toContain(
        'did not take the letter',
    );
    Mail::fake();
    $said = $this->postJson("/api/people/{$said['person']['id']}/link")->assertOk()->json();
    expect($said['sent'])->toBeTrue()->and($said['link'])->toBeNull();
    Mail::assertSent(Letter::class, static function (Letter $letter): bool {
        $letter->assertSeeInText('welcome#email=a%40example.org&token=');
        $letter->assertHasSubject('You are invited to Ylema');

        return $letter->hasTo('a@example.org');
    });
});

it('sends who forgot the password a link, says the same to everybody, and floods nobody', function (): void {
    $this->getJson('/api/session')->assertJson(['mail' => false]);
    $this->postJson('/api/forgotten', ['email' => 'viewer@korrinbay.example'])->assertStatus(409)->assertSee('no mail');
    config(['mail.default' => 'smtp']);
    Mail::fake();
    $known = $this->postJson('/api/forgotten', ['email' => 'Viewer@korrinbay.example'])->assertStatus(202)->json();
    $again = $this->postJson('/api/forgotten', ['email' => 'viewer@korrinbay.example'])->assertStatus(202)->json();
    $nobody = $this->postJson('/api/forgotten', ['email' => 'nobody@example.org'])->assertStatus(202)->json();
    expect($known)->toBe($nobody)->and($again)->toBe($known);
    Mail::assertSentCount(1);
    Mail::assertSent(Letter::class, static fn (Letter $letter): bool => $letter->hasTo('viewer@korrinbay.example'));
});

it('lists people in pages, and changes what they may', function (): void {
    User::query()->insert(array_map(static fn (int $n): array => [
        'email' => sprintf('many-%03d@example.org', $n),
        'name' => "Many $n",
        'password' => '',
        'role' => 'viewer',
    ], range(1, 60)));
    $first = $this->as(Role::Owner)->getJson('/api/people')->assertOk()->json();
    $second = $this->getJson('/api/people?after='.urlencode($first['next']))->json();
    $emails = array_column([...$first['people'], ...$second['people']], 'email');
    expect($first['people'])
        ->toHaveCount(50)
        ->and($second['next'])
        ->toBeNull()
        ->and(array_unique($emails))
        ->toHaveCount(63);
    $person = User::query()->where('email', 'viewer@korrinbay.example')->sole();
    $this->patchJson("/api/people/$person->id", ['role' => 'maintainer'])->assertJson(['role' => 'maintainer']);
    $this->patchJson("/api/people/$person->id", ['access' => false])->assertJson(['state' => 'ended']);
    $this->postJson("/api/people/$person->id/link")->assertStatus(409)->assertSee('has ended');
    $this->patchJson("/api/people/$person->id", ['access' => true])->assertJson(['state' => 'in']);
    $this->patchJson('/api/people/'.auth()->id(), ['access' => false])->assertStatus(409)->assertSee('another owner');
});

it('lets no two owners send each other away at one moment', function (): void {
    [$one, $two] = [
        User::query()->where('role', 'owner')->sole(),
        User::query()->create([
            'email' => 'second@example.org',
            'name' => 'Second',
            'password' => 'a long password',
            'role' => Role::Owner,
            'joined_at' => now(),
        ]),
    ];
    $processes = array_map(static fn (User $who) => proc_open(
        [PHP_BINARY, base_path('artisan'), 'ylema:person', $who->email, '--end'],
        [1 => ['file', '/dev/null', 'w'], 2 => ['file', '/dev/null', 'w']],
        $pipes,
        base_path(),
        getenv(),
    ), [$one, $two]);
    $ends = array_map(proc_close(...), $processes);
    sort($ends);
    expect($ends)->toBe([0, 4])->and(User::query()->where('role', 'owner')->whereNull('ended_at')->count())->toBe(1);
});

it('says a link on the command line, for the first owner too', function (): void {
    $arguments = ['email' => 'First@example.org', '--role' => 'owner', '--link' => true];
    expect(Artisan::call('ylema:person', $arguments))->toBe(0);
    preg_match('~^http.*$~m', Artisan::output(), $link);
    $this->postJson('/api/welcome', [...carried($link[0]), 'password' => 'a long new password', 'name' => 'Ada First'])
        ->assertStatus(204);
    $this->getJson('/api/session')->assertJson(['user' => ['name' => 'Ada First', 'role' => 'owner']]);
});

it('lets the second of two who use one link at one moment wait, and then finds it used', function (): void {
    $person = User::query()->where('role', 'viewer')->sole();
    $way = carried(app(WaysIn::class)->make($person)->address);
    config(['database.connections.beside' => config('database.connections.pgsql')]);
    $first = DB::connection('beside');
    $first->beginTransaction();
    $first->select('select id from users where id = ? for update', [$person->id]);
    DB::statement("set lock_timeout = '300ms'");
    try {
        expect(fn () => app(WaysIn::class)->enter($way['email'], $way['token'], 'a long new password', null))
            ->toThrow(QueryException::class, 'lock timeout');
    } finally {
        DB::statement('set lock_timeout = 0');
        $first->rollBack();
        DB::purge('beside');
    }
    expect(app(WaysIn::class)->enter($way['email'], $way['token'], 'a long new password', null)->id)->toBe($person->id);
    expect(fn () => app(WaysIn::class)->enter($way['email'], $way['token'], 'another password', null))
        ->toThrow(PersonRefused::class);
});
