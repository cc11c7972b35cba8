<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use Illuminate\Mail\Mailable;
use Illuminate\Mail\Mailables\Content;
use Illuminate\Mail\Mailables\Envelope;

/** A link by mail, as plain text. */
final class Letter extends Mailable
{
    public function __construct(public readonly User $person, public readonly Way $way)
    {
    }

    public function envelope(): Envelope
    {
        return new Envelope(
            subject: $this->way->isInvitation ? 'You are invited to Ylema' : 'A new password for Ylema',
        );
    }

    public function content(): Content
    {
        return new Content(text: $this->way->isInvitation ? 'letters.invitation' : 'letters.password');
    }
}
