<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** A box that some places have in common, so that a plan can show what stands in it before and after. */
final readonly class ShownBox
{
    /**
     * @param  int|null  $width in pixels, as stated
     * @param  int|null  $height in pixels, as stated; null where the picture's own shape decides
     * @param  string  $carrier what a person calls the carrier that is made for it; empty for the markup's own
     */
    public function __construct(public ?int $width, public ?int $height, public string $carrier, public int $places)
    {
    }
}
