<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Imaging\Size;
use Ylema\Sites\FileState;

/** One file that may rest. */
final readonly class IdleFile
{
    public function __construct(
        public string $path,
        public FileState $state,
        public string $mime,
        public ?Size $pixels,
        public bool $isOriginal,
    ) {
    }
}
