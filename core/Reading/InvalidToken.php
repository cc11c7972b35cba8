<?php

declare(strict_types=1);

namespace Ylema\Reading;

use InvalidArgumentException;
use Ylema\Failure;

/** The pattern of a site's token that cannot be used. */
final class InvalidToken extends InvalidArgumentException implements Failure
{
    public function __construct(public readonly string $token, public readonly string $pattern, string $message)
    {
        parent::__construct($message);
    }
}
