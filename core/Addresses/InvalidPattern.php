<?php

declare(strict_types=1);

namespace Ylema\Addresses;

use InvalidArgumentException;
use Ylema\Failure;

/** A pattern of names or addresses that says too little to be used. */
final class InvalidPattern extends InvalidArgumentException implements Failure
{
    public function __construct(public readonly string $pattern, public readonly string $why)
    {
        parent::__construct("\"$pattern\" is no $why");
    }
}
