<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use Illuminate\Auth\Passwords\PasswordBroker;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Password;
use LogicException;

/**
 * Links by which somebody chooses a password: an invitation for who never came in, else a link for an hour. Only a hash
 * of each is kept, and a newer one ends the older.
 */
final readonly class WaysIn
{
    /** Where the hashes of links are kept (config/auth.php). */
    public const TABLES = ['invitations', 'password_links'];

    public function __construct(private People $people)
    {
    }

    /** @throws PersonRefused where their access has ended */
    public function make(User $person): Way
    {
        if ($person->ended_at !== null) {
            throw PersonRefused::ended($person->email);
        }
        // Behind the "#", so that it comes into no log of a server on its way.
        $token = $this->broker($person)->createToken($person);
        $said = http_build_query(['email' => $person->email, 'token' => $token]);
        $isInvitation = $person->joined_at === null;
        $address = config('app.url');

        return new Way(
            rtrim(is_string($address) ? $address : '', '/')."/welcome#$said",
            $isInvitation,
            $isInvitation ? 'in seven days' : 'in an hour',
        );
    }

    /** Whether one was made in the last minute: nobody is to be flooded with letters. */
    public function isFresh(User $person): bool
    {
        return $this->broker($person)->getRepository()->recentlyCreatedToken($person);
    }

    /** @throws PersonRefused where the link is no link, or not any more */
    public function person(string $email, string $token): User
    {
        $person = User::query()->where('email', mb_strtolower($email))->first();
        if ($person === null || $person->ended_at !== null || ! $this->broker($person)->tokenExists($person, $token)) {
            throw PersonRefused::link();
        }

        return $person;
    }

    /**
     * The link is used up, and all sessions that there were have ended.
     *
     * @throws PersonRefused
     */
    public function enter(string $email, string $token, string $password, ?string $name): User
    {
        return DB::transaction(function () use ($email, $token, $password, $name): User {
            // Of two who use one link at one moment, the second finds it used.
            User::query()->where('email', mb_strtolower($email))->lockForUpdate()->first();
            $person = $this->person($email, $token);
            $this->broker($person)->deleteToken($person);
            $person->forceFill([
                'password' => $password,
                'name' => $name ?? $person->name,
                'joined_at' => $person->joined_at ?? now(),
            ])->save();
            $this->people->signOut($person);

            return $person;
        });
    }

    private function broker(User $person): PasswordBroker
    {
        $broker = Password::broker($person->joined_at === null ? 'invitations' : 'links');

        return $broker instanceof PasswordBroker ? $broker : throw new LogicException('No broker of passwords.');
    }
}
