<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Imaging\Size;

/** Bytes that are kept for a plan: an upload, or the original of an item that shall stand in. */
final readonly class KeptFile
{
    /**
     * @param  string  $name as its sender or the site calls it
     * @param  string  $extension by its content, in lower case
     * @param  Size|null  $pixels null for what has none
     * @param  bool  $isDrawable whether pictures can be drawn from it
     * @param  bool  $isAnimated whether it moves; what is drawn from it does not
     */
    public function __construct(
        public string $sha256,
        public int $weight,
        public string $name,
        public string $extension,
        public ?Size $pixels,
        public bool $isDrawable,
        public bool $isAnimated = false,
    ) {
    }
}
