<?php

declare(strict_types=1);

namespace Ylema\Change;

use Ylema\Reading\Reference;

/**
 * One replacement of bytes in one text: at `start`, `before` gives way to `after`. It carries the reference that it
 * changes; one without is of no reference, but mends a stated length on the way.
 */
final readonly class Edit
{
    public function __construct(
        public int $start,
        public string $before,
        public string $after,
        public ?Reference $reference = null,
    ) {
    }

    public function end(): int
    {
        return $this->start + strlen($this->before);
    }
}
