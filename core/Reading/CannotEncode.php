<?php

declare(strict_types=1);

namespace Ylema\Reading;

use RuntimeException;

/** A value that cannot be written at a place, because the notation there has no way to say it. */
final class CannotEncode extends RuntimeException
{
    public static function in(string $place, string $value, string $why): self
    {
        return new self(sprintf('"%s" cannot be written in %s: %s.', $value, $place, $why));
    }
}
