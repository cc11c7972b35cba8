<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Mail;
use Symfony\Component\Mailer\Exception\TransportExceptionInterface;

/** Letters to people, where this installation has mail. */
final class Post
{
    public function isSet(): bool
    {
        return config('mail.default') !== 'off';
    }

    /** @return bool false where it could not be handed over; the log says why */
    public function send(User $person, Way $way): bool
    {
        if (! $this->isSet()) {
            return false;
        }
        try {
            Mail::to($person->email)->send(new Letter($person, $way));
        } catch (TransportExceptionInterface $e) {
            Log::warning("A letter to $person->email could not be handed over: {$e->getMessage()}");

            return false;
        }

        return true;
    }
}
