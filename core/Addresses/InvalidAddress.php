<?php

declare(strict_types=1);

namespace Ylema\Addresses;

use InvalidArgumentException;
use Ylema\Failure;

final class InvalidAddress extends InvalidArgumentException implements Failure
{
    public function __construct(public readonly string $address)
    {
        parent::__construct(
            "\"$address\" is not an absolute web address; write it with its scheme, such as https://site.example/.",
        );
    }
}
