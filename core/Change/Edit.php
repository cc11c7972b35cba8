<?php

declare(strict_types=1);

namespace Ylema\Change;

/** One replacement of bytes in one text: at `start`, `before` gives way to `after`. */
final readonly class Edit
{
    public function __construct(
        public int $start,
        public string $before,
        public string $after,
    ) {
    }

    public function end(): int
    {
        return $this->start + strlen($this->before);
    }
}
