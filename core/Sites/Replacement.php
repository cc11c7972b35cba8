<?php

declare(strict_types=1);

namespace Ylema\Sites;

use Ylema\Change\Edits;

/** One record's part of a batch: the edits of its fields, what they expect to find and what they shall leave. */
final readonly class Replacement
{
    /**
     * @param  string  $expected content hash that the caller saw
     * @param  string  $wanted content hash that the record shall have afterwards
     * @param  array<string, Edits>  $fields field → edits
     * @param  string|null  $moved the key that the record shall have afterwards; null where it keeps its own
     */
    public function __construct(
        public string $key,
        public string $expected,
        public string $wanted,
        public array $fields,
        public ?string $moved = null,
    ) {
    }
}
