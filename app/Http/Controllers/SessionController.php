<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\User;
use App\People\Diary;
use App\People\Post;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\Str;
use Illuminate\Validation\ValidationException;
use Symfony\Component\HttpKernel\Exception\TooManyRequestsHttpException;

final class SessionController
{
    private const TRIES_A_MINUTE = 6;

    public function __construct(private readonly Post $post)
    {
    }

    public function show(Request $request): JsonResponse
    {
        $user = $request->user();

        return new JsonResponse([
            'user' => $user instanceof User ? self::said($user) : null,
            'csrf' => csrf_token(),
            'mail' => $this->post->isSet(),
            'demo' => config('demo.shown') === true
                    ? [
                        'password' => 'tidewater-demo',
                        'accounts' => User::query()
                            ->where('email', 'like', '%@korrinbay.example')
                            ->orderByRaw("array_position(array['viewer', 'maintainer', 'owner'], role::text)")
                            ->get()
                            ->map(self::said(...))
                            ->all(),
                    ]
                    : null,
        ]);
    }

    public function store(Request $request): JsonResponse
    {
        $credentials = $request->validate([
            'email' => ['required', 'string', 'max:255'],
            'password' => ['required', 'string', 'max:255'],
        ]);
        // Counted before it is tried, so that tries sent at once are counted, too; forgotten once one was right.
        $tries = 'sign-in:'.Str::lower($credentials['email']).'|'.$request->ip();
        if (RateLimiter::hit($tries) > self::TRIES_A_MINUTE) {
            Diary::note('sign-ins are slowed down');
            throw new TooManyRequestsHttpException(RateLimiter::availableIn($tries));
        }
        $user = $this->user($credentials['email'], $credentials['password']);
        if ($user === null) {
            $known = User::query()->where('email', $credentials['email'])->value('id');
            Diary::note('a sign-in was refused', ['person' => is_int($known) ? $known : null]);
            throw ValidationException::withMessages([
                'email' => 'No account has this address and password. Check both; passwords tell upper '
                    .'from '.'lower case.',
            ]);
        }
        RateLimiter::clear($tries);
        Auth::login($user, $request->boolean('remember'));
        $request->session()->regenerate();
        Diary::note('signed in');

        return new JsonResponse([
            'user' => self::said($user),
            'csrf' => csrf_token(),
            'mail' => $this->post->isSet(),
            'demo' => null,
        ]);
    }

    /** A password is hashed for an address that nobody has, too; so the time tells nothing of who has an account. */
    private function user(string $email, string $password): ?User
    {
        $user = User::query()->where('email', $email)->first();
        $hash = $user->password ?? Cache::rememberForever(
            'nobodys-password-'.config('hashing.bcrypt.rounds'),
            static fn (): string => Hash::make(Str::random(40)),
        );
        if (! Hash::check($password, $hash) || $user === null || $user->ended_at !== null) {
            return null;
        }
        if (Hash::needsRehash($user->password)) {
            $user->forceFill(['password' => $password])->save();
        }

        return $user;
    }

    public function destroy(Request $request): Response
    {
        Diary::note('signed out');
        Auth::logout();
        $request->session()->invalidate();
        $request->session()->regenerateToken();

        return response()->noContent();
    }

    /** @return array{name: string, email: string, role: string} */
    private static function said(User $user): array
    {
        return ['name' => $user->name, 'email' => $user->email, 'role' => $user->role->value];
    }
}
