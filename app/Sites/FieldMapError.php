<?php

declare(strict_types=1);

namespace App\Sites;

use RuntimeException;

/** A field map that cannot be used; the message names the line's place and says what belongs there. */
final class FieldMapError extends RuntimeException
{
    public static function at(string $place, string $what): self
    {
        return new self("In the field map, $place: $what");
    }
}
