<?php

declare(strict_types=1);

namespace Ylema\Reading;

use Ylema\Reading\Encoding\Charset;

/** What one field holds: its references in order of their place, and what could not be read. */
final readonly class Reading
{
    /**
     * @param  list<Reference>  $references
     * @param  list<Problem>  $problems
     * @param  string|null  $base the value of the first base element with an address, undecided as to its own base
     * @param  int  $baseAt where that element begins, in bytes
     * @param  Charset|null  $charset that it was read in, where that is not UTF-8
     */
    public function __construct(
        public array $references,
        public array $problems = [],
        public ?string $base = null,
        private int $baseAt = 0,
        public ?Charset $charset = null,
    ) {
    }

    /**
     * Whether the base does not count for a reference. What a parser meets before the base element is asked for at
     * once, by the address of the page (HTML Standard, 4.2.3: a base "must come before any other elements"); a link
     * waits for its visitor, and a picture behind a table, or what is embedded, for the layout; then the base is there.
     */
    public function isBeforeBase(Reference $reference): bool
    {
        return $reference->start < $this->baseAt
            && ($reference->fetch === Fetch::Always || $reference->fetch === Fetch::OnCondition)
            && preg_match('~^(?!object\b|embed\b)[^\[]++\[(?!background\])~', $reference->role) === 1;
    }
}
