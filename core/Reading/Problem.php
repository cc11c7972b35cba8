<?php

declare(strict_types=1);

namespace Ylema\Reading;

/** Something in a field that could not be read, said for the maintainer; `offset` is a byte of the outermost text. */
final readonly class Problem
{
    public function __construct(public int $offset, public string $message)
    {
    }
}
