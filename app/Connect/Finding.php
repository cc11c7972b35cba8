<?php

declare(strict_types=1);

namespace App\Connect;

/** One thing that a test of a connection tried. */
final readonly class Finding
{
    public function __construct(public string $what, public bool $isGood, public string $words)
    {
    }
}
