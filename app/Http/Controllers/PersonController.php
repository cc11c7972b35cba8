<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Role;
use App\Models\User;
use App\People\People;
use App\People\PersonRefused;
use App\People\Post;
use App\People\WaysIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Carbon;
use Illuminate\Validation\Rule;

/** The people of this installation, as its owners manage them. */
final readonly class PersonController
{
    private const PAGE = 50;

    public function __construct(private People $people, private WaysIn $ways, private Post $post)
    {
    }

    public function index(Request $request): JsonResponse
    {
        $asked = $request->validate(['after' => ['nullable', 'string', 'max:255']]);
        $after = $asked['after'] ?? null;
        $people = User::query()
            ->select('users.*')
            ->selectRaw('(select max(last_activity) from sessions where sessions.user_id = users.id) as seen')
            ->when(is_string($after), static fn ($query) => $query->where('email', '>', $after))
            ->orderBy('email')
            ->limit(self::PAGE + 1)
            ->get();

        return new JsonResponse([
            'people' => $people->take(self::PAGE)->map(self::said(...))->all(),
            'next' => $people->count() > self::PAGE ? $people[self::PAGE - 1]?->email : null,
            'mail' => $this->post->isSet(),
        ]);
    }

    public function store(Request $request): JsonResponse
    {
        $request->validate([
            'email' => ['required', 'string', 'max:255', 'email:rfc'],
            'name' => ['nullable', 'string', 'max:120'],
            'role' => ['required', Rule::enum(Role::class)],
        ]);
        $name = trim($request->string('name')->toString());
        $person = $this->people->invite(
            mb_strtolower($request->string('email')->toString()),
            Role::from($request->string('role')->toString()),
            $name === '' ? null : $name,
        );

        return new JsonResponse($this->wayFor($person), 201);
    }

    public function update(Request $request, User $person): JsonResponse
    {
        $request->validate([
            'role' => ['required_without:access', Rule::enum(Role::class)],
            'access' => ['boolean'],
        ]);
        if ($person->is($request->user())) {
            throw new PersonRefused('Your own role and access are changed by another owner.');
        }
        if ($request->has('role')) {
            $this->people->give($person, Role::from($request->string('role')->toString()));
        }
        if ($request->has('access')) {
            $request->boolean('access') ? $this->people->letInAgain($person) : $this->people->end($person);
        }

        return new JsonResponse(self::said($person->refresh()));
    }

    public function link(User $person): JsonResponse
    {
        return new JsonResponse($this->wayFor($person));
    }

    public function signOut(Request $request, User $person): JsonResponse
    {
        $this->people->signOut($person, $person->is($request->user()) ? $request->session()->getId() : null);

        return new JsonResponse(null, 204);
    }

    /** @return array<string, mixed> where it went by mail, the link itself stays between Ylema and who gets it */
    private function wayFor(User $person): array
    {
        $way = $this->ways->make($person);
        $sent = $this->post->send($person, $way);

        return [
            'person' => self::said($person->refresh()),
            'sent' => $sent,
            'link' => $sent ? null : $way->address,
            'ends' => $way->ends,
            'said' => match (true) {
                $sent => "A letter is on its way to $person->email. Its link works once, and ends $way->ends.",
                $this->post->isSet() => 'The mail server did not take the letter; the log says why. Pass this link on '
                    ."yourself: it works once, and ends $way->ends.",
                default => "Pass this link on: it works once, and ends $way->ends. It is not shown again.",
            },
        ];
    }

    /** @return array<string, mixed> */
    private static function said(User $person): array
    {
        $seen = $person->getAttributes()['seen'] ?? null;

        return [
            'id' => $person->id,
            'name' => $person->name,
            'email' => $person->email,
            'role' => $person->role->value,
            'state' => match (true) {
                $person->ended_at !== null => 'ended',
                $person->joined_at === null => 'invited',
                default => 'in',
            },
            'seen_at' => is_int($seen) ? Carbon::createFromTimestamp($seen)->toIso8601String() : null,
        ];
    }
}
