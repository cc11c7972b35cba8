<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/**
 * Asked for by somebody who is not signed in. By a worker, so that the time of the answer does not tell whether there
 * is an account.
 */
final class SendPasswordLink implements ShouldQueue
{
    use Queueable;

    public function __construct(public readonly string $email)
    {
    }

    public function handle(WaysIn $ways, Post $post): void
    {
        $person = User::query()->where('email', $this->email)->whereNull('ended_at')->first();
        if ($person !== null && ! $ways->isFresh($person)) {
            $post->send($person, $ways->make($person));
        }
    }
}
