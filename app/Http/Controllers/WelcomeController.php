<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\People\Diary;
use App\People\PersonRefused;
use App\People\Post;
use App\People\SendPasswordLink;
use App\People\WaysIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;

/** The way in by a link, for who has no password yet or none any more. */
final readonly class WelcomeController
{
    private const LINK = ['email' => ['required', 'string', 'max:255'], 'token' => ['required', 'string', 'max:255']];

    public function __construct(private WaysIn $ways, private Post $post)
    {
    }

    /** Asked before a password is typed for nothing. */
    public function check(Request $request): JsonResponse
    {
        $request->validate(self::LINK);
        $person = $this->ways->person($request->string('email')->toString(), $request->string('token')->toString());

        return new JsonResponse(['name' => $person->name, 'first' => $person->joined_at === null]);
    }

    public function enter(Request $request): JsonResponse
    {
        $request->validate([
            ...self::LINK,
            'password' => ['required', 'string', 'min:12', 'max:255'],
            'name' => ['nullable', 'string', 'max:120'],
        ], ['password.min' => 'A password has 12 characters or more.']);
        $name = trim($request->string('name')->toString());
        $person = $this->ways->enter(
            $request->string('email')->toString(),
            $request->string('token')->toString(),
            $request->string('password')->toString(),
            $name === '' ? null : $name,
        );
        Auth::login($person);
        $request->session()->regenerate();
        Diary::note('chose a password by a link');

        return new JsonResponse(null, 204);
    }

    /** The answer is the same for everybody. */
    public function forgotten(Request $request): JsonResponse
    {
        $request->validate(['email' => ['required', 'string', 'max:255']]);
        if (! $this->post->isSet()) {
            throw new PersonRefused('This installation sends no mail. Ask one of its owners for a link.');
        }
        SendPasswordLink::dispatch(mb_strtolower(trim($request->string('email')->toString())));

        return new JsonResponse([
            'said' => 'If there is an account with this address, a letter with a link is on its way. '
                .'It ends in an hour.',
        ], 202);
    }
}
