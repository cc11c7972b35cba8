<?php

declare(strict_types=1);

namespace App\Media;

use GdImage;
use Ylema\Imaging\Closely;
use Ylema\Imaging\Compared;
use Ylema\Imaging\Cutting;
use Ylema\Imaging\Plane;
use Ylema\Imaging\Size;

/** Two opened pictures, compared at a resolution at which letters live. */
final readonly class SideBySide
{
    /** Shapes that are nearer than this are one, in natural logarithms of width by height. */
    private const ONE_SHAPE = 0.03;

    /**
     * In whichever way: as wholes, or one as a part of the other.
     *
     * @return Compared|null null where they cannot be compared
     */
    public static function of(GdImage $one, GdImage $other): ?Compared
    {
        $whole = self::wholes($one, $other);
        foreach ($whole?->isSame() === true ? [] : [self::part($one, $other), self::part($other, $one)] as $part) {
            if ($part?->isSame() === true) {
                return $part;
            }
        }

        return $whole;
    }

    /**
     * @param  int  $across pixels at most
     * @return Compared|null null where their shapes are two, or where they are too small
     */
    public static function wholes(GdImage $one, GdImage $other, int $across = Closely::ACROSS): ?Compared
    {
        [$first, $second] = [self::size($one), self::size($other)];
        $isOneShape = abs(log($first->width / $first->height) - log($second->width / $second->height))
            < self::ONE_SHAPE;

        return $isOneShape ? self::at($one, new Cutting(), $other, $across) : null;
    }

    /**
     * @param  Cutting|null  $near where it likely lies
     * @param  int  $across pixels at most
     * @return Compared|null null where the second is no part of the first
     */
    public static function part(
        GdImage $of,
        GdImage $cut,
        ?Cutting $near = null,
        int $across = Closely::ACROSS,
    ): ?Compared {
        $place = Cutting::find(
            self::size($of),
            static fn (int $width): Plane => self::plane($of, $width),
            self::size($cut),
            static fn (int $width): Plane => self::plane($cut, $width),
            $near,
        );

        return $place === null || $place->isWhole() ? null : self::at($of, $place, $cut, $across);
    }

    private static function at(GdImage $one, Cutting $place, GdImage $other, int $most): ?Compared
    {
        $compared = null;
        // Most of what is alike from afar is another picture at a glance. Of a part, the first one tells the place.
        $isPlaced = $place->isWhole();
        foreach (array_filter(
            [...$isPlaced ? [] : [Closely::GLANCE], Closely::GLANCE, Closely::ACROSS],
            static fn (int $across): bool => $across <= $most,
        ) as $across) {
            $size = Closely::size(
                new Size((int) round(imagesx($one) * $place->width), (int) round(imagesy($one) * $place->height)),
                self::size($other),
                $across,
            );
            if ($size === null) {
                return null;
            }
            $compared = self::closely($one, $place, $size)->compare(self::closely($other, new Cutting(), $size));
            if ($isPlaced && $compared->isOther) {
                break;
            }
            $place = $place->isWhole() ? $place : $place->settled($compared->laid, $size);
            $isPlaced = true;
        }

        return $compared;
    }

    private static function size(GdImage $of): Size
    {
        return new Size(imagesx($of), imagesy($of));
    }

    private static function plane(GdImage $image, int $width): Plane
    {
        $height = max(1, (int) round($width * imagesy($image) / imagesx($image)));
        $small = self::resampled($image, new Cutting(), new Size($width, $height));
        $values = [];
        for ($y = 0; $y < $height; $y++) {
            for ($x = 0; $x < $width; $x++) {
                $rgb = (int) imagecolorat($small, $x, $y);
                [$r, $g, $b] = [($rgb >> 16) & 0xFF, ($rgb >> 8) & 0xFF, $rgb & 0xFF];
                $values[] = intdiv(299 * $r + 587 * $g + 114 * $b, 1000);
            }
        }

        return new Plane($width, $height, $values);
    }

    private static function closely(GdImage $image, Cutting $part, Size $size): Closely
    {
        $small = self::resampled($image, $part, $size);
        $bright = $blue = $red = '';
        for ($y = 0; $y < $size->height; $y++) {
            for ($x = 0; $x < $size->width; $x++) {
                $rgb = (int) imagecolorat($small, $x, $y);
                [$r, $g, $b] = [($rgb >> 16) & 0xFF, ($rgb >> 8) & 0xFF, $rgb & 0xFF];
                $light = 0.299 * $r + 0.587 * $g + 0.114 * $b;
                $bright .= chr((int) round($light));
                $blue .= chr((int) max(0, min(255, round(128 + 0.564 * ($b - $light)))));
                $red .= chr((int) max(0, min(255, round(128 + 0.713 * ($r - $light)))));
            }
        }

        return new Closely($size->width, $size->height, $bright.$blue.$red);
    }

    private static function resampled(GdImage $image, Cutting $part, Size $size): GdImage
    {
        $small = imagecreatetruecolor(max(1, $size->width), max(1, $size->height));
        // What is clear shows the page's ground, mostly white.
        imagefill($small, 0, 0, (int) imagecolorallocate($small, 255, 255, 255));
        imagecopyresampled(
            $small,
            $image,
            0,
            0,
            (int) round($part->left * imagesx($image)),
            (int) round($part->top * imagesy($image)),
            $size->width,
            $size->height,
            (int) round($part->width * imagesx($image)),
            (int) round($part->height * imagesy($image)),
        );

        return $small;
    }
}
