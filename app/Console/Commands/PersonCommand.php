<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\Role;
use App\Models\User;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

final class PersonCommand extends Command
{
    /** Characters of a password. */
    private const SHORTEST = 12;

    protected $signature = 'ylema:person {email? : without it, all are listed}
        {--role= : viewer, maintainer or owner; makes the account where there is none}
        {--name= : as it is shown}
        {--password : set a new password, which is asked for, or read from standard input}
        {--sign-out : end all of their sessions} {--end : end their access} {--again : let them in again}';

    protected $description = 'Let people in, change what they may, set a password anew, end their access';

    public function handle(): int
    {
        $email = $this->argument('email');
        if (! is_string($email)) {
            return $this->listed();
        }
        $email = mb_strtolower(trim($email));
        if (filter_var($email, FILTER_VALIDATE_EMAIL) === false) {
            $this->error("\"$email\" is not an e-mail address.");

            return 2;
        }
        $role = $this->option('role');
        $role = is_string($role) ? Role::tryFrom($role) : null;
        if ($this->option('role') !== null && $role === null) {
            $this->error('--role takes viewer, maintainer or owner.');

            return 2;
        }
        $person = User::query()->where('email', $email)->first();
        if ($person === null && $role === null) {
            $this->error("There is no account for $email. --role makes one.");

            return 2;
        }
        $password = $person === null || $this->option('password') === true ? $this->password() : null;
        if ($password === '') {
            return 2;
        }
        $ends = $this->option('end') === true || ($role !== null && $role !== Role::Owner);
        if ($person !== null && $ends && $this->isLastOwner($person)) {
            $this->error("$email is the last owner. Make another one first: bin/ylema person ADDRESS --role=owner");

            return self::FAILURE;
        }
        $name = $this->option('name');
        $person ??= new User([
            'email' => $email,
            'name' => is_string($name) ? $name : (string) strstr($email, '@', true),
        ]);
        $person->forceFill(
            array_filter(
                [
                    'role' => $role,
                    'name' => is_string($name) ? $name : null,
                    'password' => $password,
                ],
                static fn (mixed $v): bool => $v !== null,
            ),
        );
        if ($this->option('end') === true) {
            $person->ended_at = now();
        } elseif ($this->option('again') === true) {
            $person->ended_at = null;
        }
        // A new password, another role and an end hold at once, also where somebody is signed in.
        $out =
            $person->exists
            && ($password !== null || $this->option('end') === true || $this->option('sign-out') === true);
        $person->save();
        if ($out) {
            $this->signOut($person);
        }
        $this->line(
            "$email: {$person->role->value}".
                ($person->ended_at === null ? '' : ', access ended').
                ($out ? ', signed out everywhere' : '').
                '.',
        );

        return self::SUCCESS;
    }

    private function listed(): int
    {
        foreach (User::query()->orderBy('email')->get() as $person) {
            $this->line(
                sprintf(
                    '%-40s %-12s %s%s',
                    $person->email,
                    $person->role->value,
                    $person->name,
                    $person->ended_at === null ? '' : '  (access ended)',
                ),
            );
        }

        return self::SUCCESS;
    }

    /** @return string empty where none was given that will do */
    private function password(): string
    {
        $asked = $this->input->isInteractive()
            ? $this->secret('Password ('.self::SHORTEST.' characters or more)')
            : rtrim((string) fgets(STDIN), "\r\n");
        if (is_string($asked) && mb_strlen($asked) >= self::SHORTEST) {
            return $asked;
        }
        $this->error('The password needs '.self::SHORTEST.' characters or more.');

        return '';
    }

    private function isLastOwner(User $person): bool
    {
        return $person->role === Role::Owner
            && $person->ended_at === null
            && User::query()
                ->where('role', Role::Owner)
                ->whereNull('ended_at')
                ->whereKeyNot($person->id)
                ->doesntExist();
    }

    private function signOut(User $person): void
    {
        DB::table('sessions')->where('user_id', $person->id)->delete();
        $person->forceFill(['remember_token' => Str::random(60)])->save();
    }
}
