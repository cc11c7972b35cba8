<?php

declare(strict_types=1);

namespace App\People;

/** A link by which one person chooses a password, once. */
final readonly class Way
{
    /** @param  string  $ends in words, as "in seven days" */
    public function __construct(public string $address, public bool $isInvitation, public string $ends)
    {
    }
}
