<?php

declare(strict_types=1);

namespace Ylema\Imaging;

/** A rectangle of source pixels that fills a target of another shape without stretching. */
final readonly class Crop
{
    public function __construct(public int $x, public int $y, public int $width, public int $height)
    {
    }

    /**
     * The largest part of the source with the target's shape, kept as near as possible to the focal point.
     *
     * @param  float  $focusX 0 is the left edge, 1 the right
     * @param  float  $focusY 0 is the top edge, 1 the bottom
     */
    public static function toFill(Size $source, Size $target, float $focusX = 0.5, float $focusY = 0.5): self
    {
        $scale = min($source->width / $target->width, $source->height / $target->height);
        $width = max(1, min($source->width, (int) round($target->width * $scale)));
        $height = max(1, min($source->height, (int) round($target->height * $scale)));
        $x = (int) round($focusX * $source->width - $width / 2);
        $y = (int) round($focusY * $source->height - $height / 2);

        return new self(
            max(0, min($x, $source->width - $width)),
            max(0, min($y, $source->height - $height)),
            $width,
            $height,
        );
    }

    /** How much of the source falls away, 0 to 1. */
    public function loss(Size $source): float
    {
        return 1 - ($this->width * $this->height) / $source->pixels();
    }
}
