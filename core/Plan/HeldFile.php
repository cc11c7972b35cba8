<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Sites\FileState;

/** A file of the site as the index knows it. */
final readonly class HeldFile
{
    /** @param  int|null  $item number of the item that it belongs to */
    public function __construct(
        public string $path,
        public FileState $state,
        public ?int $item = null,
        public bool $isOriginal = false,
    ) {
    }
}
