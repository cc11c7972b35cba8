<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Imaging\Size;

/** A picture to be drawn from another: cropped around a focal point to fill the size, and written as a type. */
final readonly class Drawing
{
    /**
     * @param  string  $source SHA-256 of the kept bytes that it is drawn from
     * @param  string  $type file extension in lower case
     */
    public function __construct(
        public string $source,
        public Size $size,
        public string $type,
        public float $focusX = 0.5,
        public float $focusY = 0.5,
    ) {
    }
}
