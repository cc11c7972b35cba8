<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Plan\Steps\Belongings;
use Ylema\Sites\FileState;

/** A file at rest, or in a bag of the archive. */
final readonly class Resting
{
    /** @param  string|null  $bag name of the bag that it lies in; null where it rests */
    public function __construct(
        public int $id,
        public string $path,
        public FileState $file,
        public string $until,
        public Belongings $with,
        public ?string $bag = null,
    ) {
    }
}
