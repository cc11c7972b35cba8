<?php

declare(strict_types=1);

namespace App\People;

use RuntimeException;
use Ylema\Failure;

/** What cannot be done with somebody's account, in a sentence that says what can. */
final class PersonRefused extends RuntimeException implements Failure
{
    public static function lastOwner(string $email): self
    {
        return new self("$email is the last owner. Make somebody else an owner first.");
    }

    public static function known(string $email): self
    {
        return new self("There is an account for $email already. Change its role, or make a new link for it.");
    }

    public static function ended(string $email): self
    {
        return new self("The access of $email has ended. Let them in again first.");
    }

    public static function link(): self
    {
        return new self('This link has ended, or was used already. Ask the owner who sent it for a new one.');
    }
}
