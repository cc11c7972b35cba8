<?php

declare(strict_types=1);

namespace Ylema\Sites;

use RuntimeException;

final class FileMissing extends RuntimeException
{
    public static function at(string $path): self
    {
        return new self("There is no file $path.");
    }
}
