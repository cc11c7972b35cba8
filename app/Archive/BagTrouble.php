<?php

declare(strict_types=1);

namespace App\Archive;

use RuntimeException;
use Throwable;
use Ylema\Failure;
use Ylema\Sites\WriteRefused;

/** A bag that cannot be written or read; the message says what is whole and what to do. */
final class BagTrouble extends RuntimeException implements Failure
{
    public static function unwritten(string $bag, Throwable|string $why): self
    {
        return new self(
            "The bag $bag could not be written, and everything rests on as before. "
                .($why instanceof WriteRefused
                    ? $why->getMessage()
                    : (is_string($why) ? ucfirst($why) : $why->getMessage())
                        .'. Make room where bags are kept, then try again.'),
        );
    }

    public static function damaged(string $bag, string $what): self
    {
        return new self(
            "The bag $bag is damaged: $what. What lies in it was not touched. Put it back from a copy, then verify it.",
        );
    }
}
