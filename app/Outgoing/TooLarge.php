<?php

declare(strict_types=1);

namespace App\Outgoing;

use RuntimeException;
use Ylema\Failure;

/** An answer that was left before its end. */
final class TooLarge extends RuntimeException implements Failure
{
    public function __construct(public readonly int $limit)
    {
        parent::__construct(sprintf('Its answer is larger than %d MB, so it was left.', intdiv($limit, 1_048_576)));
    }
}
