<?php

declare(strict_types=1);

namespace Ylema\Imaging;

use InvalidArgumentException;

/**
 * A picture at a resolution at which letters live, compared with another where the two differ most and not on the
 * average: a printed word, a digit or a small mark tells pictures apart, another size, type or quality does not.
 *
 * Both are brought to one size first. Then brightness and contrast are evened out over the whole, and each small block
 * is asked how much of what it shows is not in the other: what a codec leaves out is faint, what somebody drew is not.
 */
final readonly class Closely
{
    /** Pixels across at which pictures are compared; smaller ones as they are. */
    public const ACROSS = 640;

    /** Pixels across a block: about a letter. */
    private const BLOCK = 12;

    private const STEP = 6;

    /** What is apart in a block after its mean was taken away, as a standard deviation of 255: less is a codec's. */
    private const APART = 6.0;

    /** A block shows something where its brightness varies so much. */
    private const SHOWN = 10.0;

    /** Bounds of the share of what a block shows that may be missing in the other. */
    private const LEAST = 0.10;

    private const MOST = 0.45;

    /** How far the means of a block may be apart, of 255. */
    private const SHADE = 16.0;

    /** The same of its colours. */
    private const TINT = 11.0;

    /** @var list<int> */
    private array $bright;

    /**
     * @param  string  $pixels three times width × height bytes, row by row: brightness, then both differences of colour
     *       (ITU-R BT.601)
     */
    public function __construct(public int $width, public int $height, private string $pixels)
    {
        if ($width < self::BLOCK || $height < self::BLOCK || strlen($pixels) !== 3 * $width * $height) {
            throw new InvalidArgumentException("These are no pixels of $width by $height.");
        }
        $this->bright = self::smooth(array_values((array) unpack('C*', substr($pixels, 0, $width * $height))), $width);
    }

    /** The size at which two pictures are compared; null where their shapes or sizes are too far apart for it. */
    public static function size(Size $one, Size $other): ?Size
    {
        $ratio = ($one->width / $one->height) / ($other->width / $other->height);
        $width = min($one->width, $other->width, self::ACROSS);
        $height = (int) round($width * $one->height / $one->width);

        return abs(log($ratio)) > 0.03 || $width < 4 * self::BLOCK || $height < 4 * self::BLOCK
            ? null
            : new Size($width, $height);
    }

    /**
     * @return list<array{x: float, y: float, width: float, height: float}> where they differ, in shares of the whole;
     *     none where both show the same
     */
    public function differences(self $other): array
    {
        if ($this->width !== $other->width || $this->height !== $other->height) {
            throw new InvalidArgumentException('Pictures are compared at one size.');
        }
        $apart = $this->blocks($this->evened($this->laid($other->bright))) + $this->tinted($other);

        return self::joined($apart, $this->width, $this->height);
    }

    /**
     * The brightness of another with the mean and the contrast of this one.
     *
     * @param  list<int>  $other
     * @return list<int>
     */
    private function evened(array $other): array
    {
        $count = count($other);
        [$one, $two] = [array_sum($this->bright) / $count, array_sum($other) / $count];
        $both = $spread = 0.0;
        foreach ($other as $i => $value) {
            $both += ($value - $two) * ($this->bright[$i] - $one);
            $spread += ($value - $two) ** 2;
        }
        $slope = $spread < 1 ? 1.0 : max(0.7, min(1.4, $both / $spread));

        return array_map(static fn (int $value): int => (int) round(($value - $two) * $slope + $one), $other);
    }

    /**
     * @param  list<int>  $other
     * @return array<string, array{int, int}> blocks in which something else is shown
     */
    private function blocks(array $other): array
    {
        $across = intdiv($this->width, self::STEP);
        $cells = [];
        for ($row = 0, $rows = intdiv($this->height, self::STEP); $row < $rows; $row++) {
            for ($column = 0; $column < $across; $column++) {
                $cells[] = $this->sums($other, $column * self::STEP, $row * self::STEP);
            }
        }
        $blocks = [];
        // A block is four cells, and shares two of them with each neighbour.
        for ($row = 0; $row < $rows - 1; $row++) {
            for ($column = 0; $column < $across - 1; $column++) {
                $n = $row * $across + $column;
                $sums = [];
                foreach ($cells[$n] as $i => $sum) {
                    $sums[] = $sum + $cells[$n + 1][$i] + $cells[$n + $across][$i] + $cells[$n + $across + 1][$i];
                }
                $blocks[] = [$column * self::STEP, $row * self::STEP, ...self::block($sums)];
            }
        }
        $most = self::usual($blocks);
        $apart = [];
        foreach ($blocks as [$left, $top, $shade, $rest, $spread]) {
            if ($shade > self::SHADE || ($rest > self::APART ** 2 && $rest > $most * $spread)) {
                $apart["$left $top"] = [$left, $top];
            }
        }

        return $apart;
    }

    /**
     * The share of what a block shows that may be missing in the other: what another size or quality takes away, it
     * takes everywhere; what somebody drew stands out of that.
     *
     * @param  list<array{int, int, float, float, float}>  $blocks
     */
    private static function usual(array $blocks): float
    {
        $shares = [];
        foreach ($blocks as [, , , $rest, $spread]) {
            if ($spread > self::SHOWN ** 2) {
                $shares[] = $rest / $spread;
            }
        }
        sort($shares);
        $usual = $shares === [] ? 0.0 : $shares[(int) (0.95 * (count($shares) - 1))];

        return max(self::LEAST, min(self::MOST, 2.5 * $usual + 0.05));
    }

    /**
     * The other where it lies best on this one: programs that make pictures smaller do not agree on where a pixel is.
     *
     * @param  list<int>  $other
     * @return list<int>
     */
    private function laid(array $other): array
    {
        [$width, $count] = [$this->width, count($other)];
        $best = [null, 0, 0];
        foreach ([-2, -1, 0, 1, 2] as $down) {
            foreach ([-2, -1, 0, 1, 2] as $right) {
                $sum = 0;
                // In half pixels; some of all pixels will do.
                for ($i = 2 * $width; $i < $count - 2 * $width; $i += 11) {
                    $sum += ($this->bright[$i] - self::at($other, $i, $right, $down, $width)) ** 2;
                }
                if ($best[0] === null || $sum < $best[0]) {
                    $best = [$sum, $right, $down];
                }
            }
        }
        [, $right, $down] = $best;
        if ($right === 0 && $down === 0) {
            return $other;
        }
        $laid = $other;
        for ($i = 2 * $width; $i < $count - 2 * $width; $i++) {
            $laid[$i] = self::at($other, $i, $right, $down, $width);
        }

        return array_values($laid);
    }

    /** @param  list<int>  $values */
    private static function at(array $values, int $i, int $right, int $down, int $width): int
    {
        // The four pixels between which a half lies; for a whole step, four times the same.
        $one = $i + ($right >> 1) + ($down >> 1) * $width;
        $x = $right & 1;
        $y = ($down & 1) * $width;

        return ($values[$one] + $values[$one + $x] + $values[$one + $y] + $values[$one + $x + $y] + 2) >> 2;
    }

    /**
     * @param  list<int>  $sums
     * @return array{float, float, float} how far the means are apart, the variance of what is left then, and the larger
     *     variance of the two
     */
    private static function block(array $sums): array
    {
        [$count, $d, $dd, $a, $aa, $b, $bb] = $sums;

        return [
            abs($d) / $count,
            $dd / $count - ($d / $count) ** 2,
            max($aa / $count - ($a / $count) ** 2, $bb / $count - ($b / $count) ** 2),
        ];
    }

    /**
     * @param  list<int>  $other
     * @return array{int, int, int, int, int, int, int} how many pixels; sums of what they are apart, of one's and of
     *     the other's, each with its squares
     */
    private function sums(array $other, int $left, int $top): array
    {
        $own = $this->bright;
        $d = $dd = $a = $aa = $b = $bb = 0;
        for ($y = $top; $y < $top + self::STEP; $y++) {
            for ($i = $y * $this->width + $left, $end = $i + self::STEP; $i < $end; $i++) {
                $one = $own[$i];
                $two = $other[$i];
                $apart = $one - $two;
                $d += $apart;
                $dd += $apart * $apart;
                $a += $one;
                $aa += $one * $one;
                $b += $two;
                $bb += $two * $two;
            }
        }

        return [self::STEP ** 2, $d, $dd, $a, $aa, $b, $bb];
    }

    /** @return array<string, array{int, int}> blocks of another colour */
    private function tinted(self $other): array
    {
        $apart = [];
        $plane = $this->width * $this->height;
        $step = self::BLOCK;
        for ($top = 0; $top + $step <= $this->height; $top += $step) {
            for ($left = 0; $left + $step <= $this->width; $left += $step) {
                foreach ([1, 2] as $n) {
                    $d = 0;
                    // Every third pixel: codecs keep colours at half the resolution anyway.
                    for ($y = $top; $y < $top + $step; $y += 3) {
                        for ($x = $left; $x < $left + $step; $x += 3) {
                            $i = $n * $plane + $y * $this->width + $x;
                            $d += ord($this->pixels[$i]) - ord($other->pixels[$i]);
                        }
                    }
                    if (abs($d) / 16 > self::TINT) {
                        $apart["$left $top"] = [$left, $top];
                    }
                }
            }
        }

        return $apart;
    }

    /**
     * What a codec sharpens at an edge is one pixel wide.
     *
     * @param  list<mixed>  $values
     * @return list<int>
     */
    private static function smooth(array $values, int $width): array
    {
        /** @var list<int> $values */
        $count = count($values);
        foreach ([1, $width] as $step) {
            $smooth = $values;
            for ($i = $step; $i < $count - $step; $i++) {
                $smooth[$i] = ($values[$i - $step] + 2 * $values[$i] + $values[$i + $step] + 2) >> 2;
            }
            $values = $smooth;
        }

        return array_values($values);
    }

    /**
     * Blocks that touch, as one place.
     *
     * @param  array<string, array{int, int}>  $blocks
     * @return list<array{x: float, y: float, width: float, height: float}>
     */
    private static function joined(array $blocks, int $width, int $height): array
    {
        /** @var list<array{int, int, int, int}> $places left, top, right, bottom */
        $places = [];
        foreach ($blocks as [$left, $top]) {
            $new = [$left, $top, $left + self::BLOCK, $top + self::BLOCK];
            foreach ($places as $n => $place) {
                if (
                    $new[0] <= $place[2] + self::BLOCK && $place[0] <= $new[2] + self::BLOCK
                    && $new[1] <= $place[3] + self::BLOCK && $place[1] <= $new[3] + self::BLOCK
                ) {
                    $new = [
                        min($new[0], $place[0]),
                        min($new[1], $place[1]),
                        max($new[2], $place[2]),
                        max($new[3], $place[3]),
                    ];
                    unset($places[$n]);
                }
            }
            $places[] = $new;
        }

        return array_values(array_map(static fn (array $place): array => [
            'x' => round($place[0] / $width, 4),
            'y' => round($place[1] / $height, 4),
            'width' => round(($place[2] - $place[0]) / $width, 4),
            'height' => round(($place[3] - $place[1]) / $height, 4),
        ], $places));
    }
}
