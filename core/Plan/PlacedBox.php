<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Imaging\Size;

/** The box in which a reference shows what it names: stated beside it, or by a carrier that is made for one. */
final readonly class PlacedBox
{
    /**
     * @param  int  $reference its number in the index
     * @param  int|null  $width as the markup states it, in pixels
     * @param  int|null  $height as the markup states it, in pixels
     * @param  Size|null  $carrier the box that the nearest carrier with one is made for
     * @param  string  $carrierName what a person calls that carrier
     */
    public function __construct(
        public int $reference,
        public ?int $width,
        public ?int $height,
        public ?Size $carrier = null,
        public string $carrierName = '',
    ) {
    }
}
