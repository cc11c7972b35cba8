<?php

declare(strict_types=1);

namespace Ylema\Sites;

use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/** One field of a record: its text, and how it is to be read. */
final readonly class SourceField
{
    public function __construct(
        public string $name,
        public string $text,
        public Notation $notation,
        public Rules $rules,
    ) {
    }
}
