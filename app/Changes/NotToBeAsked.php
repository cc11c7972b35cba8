<?php

declare(strict_types=1);

namespace App\Changes;

use RuntimeException;
use Ylema\Failure;

/** A host that nobody said this machine may ask. */
final class NotToBeAsked extends RuntimeException implements Failure
{
    public function __construct(public readonly string $host)
    {
        parent::__construct(
            "This machine was not told how to reach $host, so it was not asked. An owner can say so in the site's "
                .'settings.',
        );
    }
}
