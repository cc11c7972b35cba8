<?php

declare(strict_types=1);

namespace Ylema\Sites;

/** A file in the store: `size` in bytes, `modified` in seconds since 1970. */
final readonly class StoredFile
{
    public function __construct(public string $path, public int $size, public int $modified)
    {
    }
}
