<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Models\Role;
use App\Models\User;
use App\People\People;
use App\People\PersonRefused;
use App\People\WaysIn;

final class PersonCommand extends Command
{
    /** Characters of a password. */
    private const SHORTEST = 12;

    protected $signature = 'ylema:person {email? : without it, all are listed}
        {--role= : viewer, maintainer or owner; makes the account where there is none}
        {--name= : as it is shown}
        {--link : say a link by which they choose a password, instead of setting one here}
        {--password : set a new password, which is asked for, or read from standard input}
        {--sign-out : end all of their sessions} {--end : end their access} {--again : let them in again}';

    protected $description = 'Let people in, change what they may, set a password anew, end their access';

    public function handle(People $people, WaysIn $ways): int
    {
        $email = $this->argument('email');
        if (! is_string($email)) {
            return $this->listed();
        }
        $email = mb_strtolower(trim($email));
        if (filter_var($email, FILTER_VALIDATE_EMAIL) === false) {
            return $this->wrong("\"$email\" is not an e-mail address.");
        }
        $role = is_string($this->option('role')) ? Role::tryFrom($this->option('role')) : null;
        if ($this->option('role') !== null && $role === null) {
            return $this->wrong('--role takes viewer, maintainer or owner.');
        }
        $person = User::query()->where('email', $email)->first();
        if ($person === null && $role === null) {
            return $this->wrong("There is no account for $email. --role makes one.");
        }
        $asks = $this->option('password') === true || ($person === null && $this->option('link') !== true);
        $password = $asks ? $this->password() : null;
        if ($password === '') {
            return ExitCode::WRONG;
        }
        try {
            $person = $this->changed($people, $person ?? $people->invite($email, $role ?? Role::Viewer), $role);
            $out = $this->passwordSet($people, $person, $password);
            $this->line(
                "$email: {$person->role->value}".
                    ($person->ended_at === null ? '' : ', access ended').
                    ($out ? ', signed out everywhere' : '').
                    '.',
            );
            if ($this->option('link') === true) {
                $way = $ways->make($person);
                $this->line("This link lets them choose a password. It works once, and ends $way->ends:");
                $this->line($way->address);
            }
        } catch (PersonRefused $e) {
            return $this->refused($e);
        }

        return self::SUCCESS;
    }

    /** @throws PersonRefused */
    private function changed(People $people, User $person, ?Role $role): User
    {
        if ($role !== null && $role !== $person->role) {
            $people->give($person, $role);
        }
        if (is_string($this->option('name'))) {
            $person->update(['name' => $this->option('name')]);
        }
        if ($this->option('end') === true) {
            $people->end($person);
        } elseif ($this->option('again') === true) {
            $people->letInAgain($person);
        }

        return $person;
    }

    /** A new password, and an end, hold at once, also where somebody is signed in. */
    private function passwordSet(People $people, User $person, ?string $password): bool
    {
        $wasThere = $person->joined_at !== null;
        if ($password !== null) {
            $person->forceFill(['password' => $password, 'joined_at' => $person->joined_at ?? now()])->save();
        }
        if ($password !== null || $this->option('sign-out') === true) {
            $people->signOut($person);
        }

        return $wasThere
            && ($password !== null || $this->option('end') === true || $this->option('sign-out') === true);
    }

    private function listed(): int
    {
        foreach (User::query()->orderBy('email')->cursor() as $person) {
            $note = match (true) {
                $person->ended_at !== null => '  (access ended)',
                $person->joined_at === null => '  (invited)',
                default => '',
            };
            $this->line(sprintf('%-40s %-12s %s%s', $person->email, $person->role->value, $person->name, $note));
        }

        return self::SUCCESS;
    }

    private function wrong(string $words): int
    {
        $this->error($words);

        return ExitCode::WRONG;
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
}
