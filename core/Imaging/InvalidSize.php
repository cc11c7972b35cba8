<?php

declare(strict_types=1);

namespace Ylema\Imaging;

use InvalidArgumentException;
use Ylema\Failure;

final class InvalidSize extends InvalidArgumentException implements Failure
{
    public function __construct(public readonly int $width, public readonly int $height)
    {
        parent::__construct("A picture cannot be $width × $height pixels.");
    }
}
