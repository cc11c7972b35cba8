<?php

declare(strict_types=1);

namespace App\People;

use App\Models\Role;
use App\Models\User;
use Illuminate\Database\UniqueConstraintViolationException;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** Who may come in, and what they may. An installation never is without an owner. */
final class People
{
    /**
     * An account whose password nobody knows: its link is the way in.
     *
     * @throws PersonRefused where there is one already
     */
    public function invite(string $email, Role $role, ?string $name = null): User
    {
        try {
            $person = DB::transaction(static fn (): User => User::query()->create([
                'email' => $email,
                'name' => $name ?? (string) strstr($email, '@', true),
                'role' => $role,
                'password' => Str::random(64),
            ]));
            Diary::note('invited', ['person' => $person->id, 'role' => $role->value]);

            return $person;
        } catch (UniqueConstraintViolationException) {
            throw PersonRefused::known($email);
        }
    }

    /** @throws PersonRefused for the last owner */
    public function give(User $person, Role $role): void
    {
        $this->keepingAnOwner($person, $role !== Role::Owner, static function (User $person) use ($role): void {
            $person->update(['role' => $role]);
        });
        Diary::note('given a role', ['person' => $person->id, 'role' => $role->value]);
    }

    /**
     * Ends their access, all of their sessions and each link that was still to be used, at once. The name stays, since
     * changes tell it.
     *
     * @throws PersonRefused for the last owner
     */
    public function end(User $person): void
    {
        $this->keepingAnOwner($person, true, function (User $person): void {
            $person->forceFill(['ended_at' => now()])->save();
            $this->signOut($person);
            // Else one that was sent before would let them in where somebody lets them in again.
            foreach (WaysIn::TABLES as $links) {
                DB::table($links)->where('email', $person->email)->delete();
            }
        });
        Diary::note('ended an access', ['person' => $person->id]);
    }

    public function letInAgain(User $person): void
    {
        $person->forceFill(['ended_at' => null])->save();
        Diary::note('let in again', ['person' => $person->id]);
    }

    public function signOut(User $person, ?string $exceptSession = null): void
    {
        $person->forceFill(['remember_token' => Str::random(60)])->save();
        DB::table('sessions')->where('user_id', $person->id)->where('id', '<>', $exceptSession ?? '')->delete();
    }

    /**
     * Of two owners who send each other away at one moment, one is refused: both wait for the same rows.
     *
     * @param  callable(User): void  $do
     *
     * @throws PersonRefused
     */
    private function keepingAnOwner(User $person, bool $leaves, callable $do): void
    {
        DB::transaction(static function () use ($person, $leaves, $do): void {
            $owners = User::query()
                ->where('role', Role::Owner)
                ->whereNull('ended_at')
                ->whereNotNull('joined_at')
                ->orderBy('id')
                ->lockForUpdate()
                ->pluck('id')
                ->all();
            if ($leaves && $owners === [$person->id]) {
                throw PersonRefused::lastOwner($person->email);
            }
            $do($person);
        });
        $person->refresh();
    }
}
