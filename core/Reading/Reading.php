<?php

declare(strict_types=1);

namespace Ylema\Reading;

/** What one field holds: its references in order of their place, and what could not be read. */
final readonly class Reading
{
    /**
     * @param  list<Reference>  $references
     * @param  list<Problem>  $problems
     * @param  string|null  $base the value of the first base element with an address, undecided as to its own base
     */
    public function __construct(public array $references, public array $problems = [], public ?string $base = null)
    {
    }
}
