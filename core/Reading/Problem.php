<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * Something in a field that could not be read, said for the maintainer. The offset is a byte of the outermost text, and
 * the line the one where that byte stands, from 1.
 */
final readonly class Problem
{
    public function __construct(public int $offset, public int $line, public string $message)
    {
    }
}
