<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Imaging\Size;

/** A rendition that is not there, and could be drawn from its original. */
final readonly class LostSize
{
    /** @param  Size|null  $size that it had, or should have; null where nothing tells it */
    public function __construct(public string $path, public ?Size $size, public MediaFacts $media)
    {
    }
}
