<?php

declare(strict_types=1);

namespace Ylema\Sites;

use RuntimeException;
use Ylema\Failure;

final class FileMissing extends RuntimeException implements Failure
{
    private function __construct(public readonly string $path)
    {
        parent::__construct("There is no file $path.");
    }

    public static function at(string $path): self
    {
        return new self($path);
    }
}
