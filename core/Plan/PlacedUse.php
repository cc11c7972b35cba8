<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** One reference, by its place. */
final readonly class PlacedUse
{
    /**
     * @param  int  $start in bytes of the field
     * @param  int  $length in bytes
     * @param  string|null  $path the file that it means now; null for one by id, or by the item's page
     * @param  Finding|null  $finding what is wrong with it, where that was asked for
     */
    public function __construct(
        public string $field,
        public int $start,
        public int $length,
        public ?string $path,
        public ?Finding $finding = null,
    ) {
    }
}
