<?php

declare(strict_types=1);

namespace App\Takeaway;

use RuntimeException;
use Ylema\Failure;

/** A part of a sitemap that is not there. */
final class NoSuchPart extends RuntimeException implements Failure
{
    public static function of(int $asked, int $parts): self
    {
        return new self(
            $parts === 1
                ? "This sitemap has one part, so there is no part $asked."
                : "This sitemap has $parts parts, so there is no part $asked.",
        );
    }
}
