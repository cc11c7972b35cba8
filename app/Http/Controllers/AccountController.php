<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\User;
use App\People\Diary;
use App\People\People;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\Hash;
use Illuminate\Validation\ValidationException;

/** What everybody may do with the own account. */
final class AccountController
{
    /** The session in which it is done goes on; all others end. */
    public function password(Request $request, People $people): JsonResponse
    {
        /** @var array{current: string, password: string} $asked */
        $asked = $request->validate([
            'current' => ['required', 'string', 'max:255'],
            'password' => ['required', 'string', 'min:12', 'max:255'],
        ], ['password.min' => 'A password has 12 characters or more.']);
        $user = $this->user($request);
        if (! Hash::check($asked['current'], $user->password)) {
            Diary::note('a change of password was refused');
            throw ValidationException::withMessages(['current' => 'That is not your password of now.']);
        }
        $user->forceFill(['password' => $asked['password']])->save();
        $people->signOut($user, $request->session()->getId());
        Diary::note('changed the own password');

        return new JsonResponse(null, 204);
    }

    /** Every session ends, this one among them. */
    public function leaveEverywhere(Request $request, People $people): JsonResponse
    {
        $people->signOut($this->user($request));
        Auth::guard('web')->logout();
        $request->session()->invalidate();
        $request->session()->regenerateToken();

        return new JsonResponse(null, 204);
    }

    private function user(Request $request): User
    {
        $user = $request->user();

        return $user instanceof User ? $user : abort(401);
    }
}
