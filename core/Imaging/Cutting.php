<?php

declare(strict_types=1);

namespace Ylema\Imaging;

/** Where in one picture another one lies that may be a part of it: a rectangle, in shares of the whole. */
final readonly class Cutting
{
    /** Pixels across a part at which its place is looked for. */
    private const ACROSS = 28;

    /** A part is at least this share of one side. */
    private const SMALLEST = 0.5;

    /** How far beside a place that is likely another is looked for, and how much larger or smaller it may be. */
    private const BESIDE = 0.12;

    /** Pearson's correlation below which nothing is a part of anything. */
    private const ALIKE = 0.85;

    public function __construct(
        public float $left = 0.0,
        public float $top = 0.0,
        public float $width = 1.0,
        public float $height = 1.0,
    ) {
    }

    /** The place at which a part lies that was found to lie so on what stands here, at a size in pixels. */
    public function settled(Laid $laid, Size $at): self
    {
        $left = max(0.0, $this->left - $this->width * $laid->right / $laid->scaleX / $at->width);
        $top = max(0.0, $this->top - $this->height * $laid->down / $laid->scaleY / $at->height);

        return new self(
            $left,
            $top,
            min(1.0 - $left, $this->width / $laid->scaleX),
            min(1.0 - $top, $this->height / $laid->scaleY),
        );
    }

    public function isWhole(): bool
    {
        return $this->width > 0.995 && $this->height > 0.995;
    }

    /**
     * @param  callable(int): Plane  $whole the picture at a width in pixels
     * @param  callable(int): Plane  $part
     * @param  self|null  $near where it likely lies; null where it may lie anywhere
     */
    public static function find(Size $of, callable $whole, Size $cut, callable $part, ?self $near = null): ?self
    {
        $small = $part(self::ACROSS);
        $best = [self::ALIKE, null];
        // One scale after the other: as wide as the whole first.
        for ($share = 1.0; $share >= self::SMALLEST; $share *= 0.975) {
            if ($near !== null && abs($share - $near->width) > self::BESIDE) {
                continue;
            }
            $width = (int) round(self::ACROSS / $share);
            if ((int) round($width * $of->height / $of->width) < $small->height) {
                continue;
            }
            $large = $whole($width);
            foreach (self::likeness($large, $small, $near) as [$likeness, $x, $y]) {
                if ($likeness > $best[0]) {
                    $best = [$likeness, new self(
                        $x / $large->width,
                        $y / $large->height,
                        $small->width / $large->width,
                        min(1.0, ($small->width / $large->width) * ($cut->height / $cut->width)
                            * ($of->width / $of->height)),
                    )];
                }
            }
        }

        return $best[1];
    }

    /** @return iterable<array{float, int, int}> Pearson's correlation at each place, left and top */
    private static function likeness(Plane $whole, Plane $part, ?self $near): iterable
    {
        $count = count($part->values);
        $mean = array_sum($part->values) / $count;
        $own = array_map(static fn (int $v): float => $v - $mean, $part->values);
        $spread = array_sum(array_map(static fn (float $v): float => $v * $v, $own));
        if ($spread < $count) {
            return;
        }
        for ($top = 0; $top + $part->height <= $whole->height; $top++) {
            if ($near !== null && abs($top / $whole->height - $near->top) > self::BESIDE) {
                continue;
            }
            for ($left = 0; $left + $part->width <= $whole->width; $left++) {
                if ($near !== null && abs($left / $whole->width - $near->left) > self::BESIDE) {
                    continue;
                }
                $sum = $squares = $both = 0.0;
                $n = 0;
                for ($row = 0; $row < $part->height; $row++) {
                    for ($i = ($top + $row) * $whole->width + $left, $end = $i + $part->width; $i < $end; $i++) {
                        $value = $whole->values[$i];
                        $sum += $value;
                        $squares += $value * $value;
                        $both += $value * $own[$n++];
                    }
                }
                $other = $squares - $sum * $sum / $count;
                if ($other > $count) {
                    yield [$both / sqrt($other * $spread), $left, $top];
                }
            }
        }
    }
}
