<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Addresses\OutcomeKind;

/** What is wrong with a reference, and what the index knows that it may mean. */
final readonly class Finding
{
    /**
     * @param  string|null  $asked the path that it names, or the id or key; null where that cannot be said
     * @param  string|null  $path the file that it most likely means; for a missing size, its original
     * @param  list<string>  $candidates all files that it may mean
     * @param  int|null  $item number of the item that it means, in the index
     * @param  bool  $isByAddress whether the place names a file by its address, and not an item or a record by its id
     * @param  bool  $leads whether it leads visitors to a page, which is said by its path and query, or as a whole
     *       address where it is none of the site's
     */
    public function __construct(
        public OutcomeKind $kind,
        public ?string $asked,
        public ?string $path = null,
        public array $candidates = [],
        public ?int $item = null,
        public bool $isByAddress = true,
        public bool $leads = false,
    ) {
    }
}
