<?php

declare(strict_types=1);

namespace Ylema\Sites;

use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/** One field of a record: its text, and how it is to be read. */
final readonly class SourceField
{
    /**
     * @param  string|null  $fixed why nothing may be written to it; null where it may be
     * @param  KeyPart|null  $part where it stands in the key of its record
     */
    public function __construct(
        public string $name,
        public string $text,
        public Notation $notation,
        public Rules $rules,
        public ?string $fixed = null,
        public ?KeyPart $part = null,
    ) {
    }
}
