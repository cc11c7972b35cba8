<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\MediaReference;

/** How a reference places what it names: the box and the words that its own tag gives it. */
final class Placement
{
    /** The box that the markup asks for, in its own words: `300 × 200`, `300 wide`. */
    public static function box(MediaReference $reference): ?string
    {
        $width = self::attribute($reference, 'width');
        $height = self::attribute($reference, 'height');
        $descriptor = $reference->around()['descriptor'] ?? null;

        return match (true) {
            $width !== null && $height !== null => "$width × $height",
            $width !== null => "$width wide",
            $height !== null => "$height high",
            is_string($descriptor) && $descriptor !== '' => $descriptor,
            default => null,
        };
    }

    /** Its alt text there, which may differ from the item's own. */
    public static function words(MediaReference $reference): ?string
    {
        return self::attribute($reference, 'alt');
    }

    /** A side of the box in pixels, where the markup states one. */
    public static function pixels(MediaReference $reference, string $side): ?int
    {
        $value = self::attribute($reference, $side);

        return $value !== null && preg_match('~^\d{1,5}(?:px)?$~D', $value) === 1 ? max(1, (int) $value) : null;
    }

    private static function attribute(MediaReference $reference, string $name): ?string
    {
        $attributes = $reference->around()['attributes'] ?? null;
        $value = is_array($attributes) ? $attributes[$name] ?? null : null;

        return is_string($value) && $value !== '' ? $value : null;
    }
}
