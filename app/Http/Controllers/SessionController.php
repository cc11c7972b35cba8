<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;
use Illuminate\Validation\ValidationException;

final class SessionController
{
    public function show(Request $request): JsonResponse
    {
        $user = $request->user();

        return new JsonResponse([
            'user' => $user instanceof User ? self::user($user) : null,
            'csrf' => csrf_token(),
            'demo' => config('demo.shown') === true
                    ? [
                        'password' => 'tidewater-demo',
                        'accounts' => User::query()
                            ->where('email', 'like', '%@korrinbay.example')
                            ->orderByRaw("array_position(array['viewer', 'maintainer', 'owner'], role::text)")
                            ->get()
                            ->map(self::user(...))
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
        if (! Auth::attempt($credentials, $request->boolean('remember'))) {
            throw ValidationException::withMessages([
                'email' => 'No account has this address and password. Check both; passwords tell upper from '.'lower case.',
            ]);
        }
        $request->session()->regenerate();
        $user = $request->user();
        assert($user instanceof User);

        return new JsonResponse(['user' => self::user($user), 'csrf' => csrf_token(), 'demo' => null]);
    }

    public function destroy(Request $request): Response
    {
        Auth::logout();
        $request->session()->invalidate();
        $request->session()->regenerateToken();

        return response()->noContent();
    }

    /** @return array{name: string, email: string, role: string} */
    private static function user(User $user): array
    {
        return ['name' => $user->name, 'email' => $user->email, 'role' => $user->role->value];
    }
}
