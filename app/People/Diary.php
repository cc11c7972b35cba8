<?php

declare(strict_types=1);

namespace App\People;

use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\Log;

/**
 * What is written down of who came in, who was refused, and who may what: in the log, one line each, with when, who and
 * from where; never a password, and never an address that nobody has, since people type their passwords there.
 */
final class Diary
{
    /** @param  array<string, scalar|null>  $about */
    public static function note(string $what, array $about = []): void
    {
        $request = app()->runningInConsole() && ! app()->runningUnitTests() ? null : request();
        Log::notice("People: $what", [
            ...$about,
            'by' => Auth::id(),
            'from' => $request?->ip() ?? 'the command line',
        ]);
    }
}
