<?php

declare(strict_types=1);

namespace Ylema\Imaging;

use InvalidArgumentException;

/**
 * A picture at a resolution at which letters live, compared with another where the two differ most and not on the
 * average: a printed word, a digit or a small mark tells pictures apart, another size, type or quality does not.
 *
 * The other is laid on this one, and its brightness and contrast are evened out. Then each pixel of the one has to lie
 * between the darkest and the brightest around the same pixel of the other: what a codec or another size does to an
 * edge stays within that, what somebody drew does not.
 */
final readonly class Closely
{
    /** Pixels across at which pictures are compared; smaller ones as they are. */
    public const ACROSS = 640;

    /** Pixels across at which it shows whether a closer look is worth it. */
    public const GLANCE = 160;

    /** Such a share of all cells is drawn otherwise in another picture, and more than a word or a mark is. */
    private const OTHER = 0.004;

    /** Pixels across a cell; two by two of them are a block, about a letter. */
    private const CELL = 6;

    private const BLOCK = 2 * self::CELL;

    /** How far out of the other's bounds a pixel may be, of 255. */
    private const LOOSE = 6;

    /** What pixels of a cell may be out of them together: least and most, whatever the rest of the picture does. */
    private const LEAST = 130;

    private const MOST = 420;

    /** How far the colours of a block may be apart, of 255. */
    private const TINT = 11.0;

    /** How much of a pixel a translucent mark may hide: 0 to 1. */
    private const HIDDEN = 0.62;

    /** Such a mark lies over something that can be seen beneath: a standard deviation of 255. */
    private const BENEATH = 10.0;

    /** And that is seen in the marked one, by Pearson's correlation. */
    private const SHOWN = 0.6;

    /** Pixels that may be otherwise, of all that it covers: codecs and edges. */
    private const FEW = 0.03;

    /** Codecs keep colours at half the resolution: so much of them lies beside what they belong to. */
    private const SPILT = 0.3;

    private const NEUTRAL = 128;

    /** Pixels at an edge that are not asked: what lies beside them is in one of both only. */
    private const EDGE = 3;

    private Plane $bright;

    /** @var array{Plane, Plane} */
    private array $colours;

    /**
     * @param  string  $pixels three times width × height bytes, row by row: brightness, then both differences of colour
     *       (ITU-R BT.601)
     */
    public function __construct(public int $width, public int $height, string $pixels)
    {
        $count = $width * $height;
        if ($width < self::BLOCK || $height < self::BLOCK || strlen($pixels) !== 3 * $count) {
            throw new InvalidArgumentException("These are no pixels of $width by $height.");
        }
        $this->bright = Plane::ofBytes($width, $height, substr($pixels, 0, $count))->smooth();
        $this->colours = [
            Plane::ofBytes($width, $height, substr($pixels, $count, $count)),
            Plane::ofBytes($width, $height, substr($pixels, 2 * $count)),
        ];
    }

    /**
     * The size at which two pictures of one shape are compared; null where they are too small for it.
     *
     * @param  int  $across at most
     */
    public static function size(Size $one, Size $other, int $across = self::ACROSS): ?Size
    {
        $ratio = ($one->width / $one->height) / ($other->width / $other->height);
        $width = min($one->width, $other->width, $across);
        $height = (int) round($width * $one->height / $one->width);

        return abs(log($ratio)) > 0.03 || $width < 4 * self::BLOCK || $height < 4 * self::BLOCK
            ? null
            : new Size($width, $height);
    }

    public function compare(self $other): Compared
    {
        if ($this->width !== $other->width || $this->height !== $other->height) {
            throw new InvalidArgumentException('Pictures are compared at one size.');
        }
        $laid = Laid::best($this->bright, $other->bright);
        $bright = $this->evened($other->bright->laid($laid));
        $colours = [$other->colours[0]->laid($laid), $other->colours[1]->laid($laid)];
        $drawn = $this->drawn($bright);
        $tinted = $this->tinted($colours);

        $isMarked = $drawn !== [] && $this->isTintedWithin($tinted, $bright, $colours)
            && $this->isMark($drawn, $bright, $colours);
        $cells = intdiv($this->width, self::CELL) * intdiv($this->height, self::CELL);

        return new Compared(
            $this->joined($drawn + $tinted),
            $isMarked,
            ! $isMarked && count($drawn) > self::OTHER * $cells,
            $laid,
        );
    }

    /** The brightness of another with the mean and the contrast of this one. */
    private function evened(Plane $other): Plane
    {
        $count = count($other->values);
        [$one, $two] = [array_sum($this->bright->values) / $count, array_sum($other->values) / $count];
        $both = $spread = 0.0;
        foreach ($other->values as $i => $value) {
            $both += ($value - $two) * ($this->bright->values[$i] - $one);
            $spread += ($value - $two) ** 2;
        }
        $slope = $spread < 1 ? 1.0 : max(0.7, min(1.4, $both / $spread));

        return $other->evened($slope, $one - $slope * $two);
    }

    /** @return array<string, array{int, int}> blocks in which one shows something that the other does not */
    private function drawn(Plane $other): array
    {
        $cells = $this->cells($other);
        $across = intdiv($this->width, self::CELL);
        $usual = $cells;
        sort($usual);
        // What another size or quality does, it does everywhere; what somebody drew stands out of that.
        $bound = max(self::LEAST, min(self::MOST, 3 * $usual[(int) (0.97 * (count($usual) - 1))]));
        $apart = [];
        foreach ($cells as $n => $sum) {
            if ($sum > $bound) {
                $left = max(0, ($n % $across) * self::CELL - self::CELL / 2);
                $top = max(0, intdiv($n, $across) * self::CELL - self::CELL / 2);
                $apart["$left $top"] = [(int) $left, (int) $top];
            }
        }

        return $apart;
    }

    /** @return non-empty-list<int> how far the pixels of each cell are out of the other's bounds, together */
    private function cells(Plane $other): array
    {
        [$a, $b] = [$this->bright->values, $other->values];
        [$leastA, $mostA] = [$this->bright->extreme(false), $this->bright->extreme(true)];
        [$leastB, $mostB] = [$other->extreme(false), $other->extreme(true)];
        $across = intdiv($this->width, self::CELL);
        $cells = array_fill(0, max(1, $across * intdiv($this->height, self::CELL)), 0);
        for ($y = 0, $height = intdiv($this->height, self::CELL) * self::CELL; $y < $height; $y++) {
            $row = intdiv($y, self::CELL) * $across;
            for ($x = 0, $i = $y * $this->width; $x < $across * self::CELL; $x++, $i++) {
                $out = max($b[$i] - $mostA[$i], $leastA[$i] - $b[$i], $a[$i] - $mostB[$i], $leastB[$i] - $a[$i]);
                if ($out > self::LOOSE && $x >= self::EDGE && $x < $this->width - self::EDGE
                    && $y >= self::EDGE && $y < $this->height - self::EDGE) {
                    $cells[$row + intdiv($x, self::CELL)] += $out - self::LOOSE;
                }
            }
        }

        return array_values($cells);
    }

    /**
     * @param  array{Plane, Plane}  $other
     * @return array<string, array{int, int}> blocks of another colour
     */
    private function tinted(array $other): array
    {
        $apart = [];
        for ($top = 0; $top + self::BLOCK <= $this->height; $top += self::BLOCK) {
            for ($left = 0; $left + self::BLOCK <= $this->width; $left += self::BLOCK) {
                foreach ([0, 1] as $n) {
                    $own = $this->tint($this->colours[$n], $left, $top);
                    if (abs($own - $this->tint($other[$n], $left, $top)) > self::TINT) {
                        $apart["$left $top"] = [$left, $top];
                    }
                }
            }
        }

        return $apart;
    }

    private function tint(Plane $plane, int $left, int $top): float
    {
        $sum = 0;
        // Every third pixel: codecs keep colours at half the resolution anyway.
        for ($y = $top; $y < $top + self::BLOCK; $y += 3) {
            for ($x = $left; $x < $left + self::BLOCK; $x += 3) {
                $sum += $plane->values[$y * $this->width + $x];
            }
        }

        return $sum / (self::BLOCK / 3) ** 2;
    }

    /**
     * Whether colours are others mostly where brightness is: a mark is never of another colour alone.
     *
     * @param  array<string, array{int, int}>  $tinted
     * @param  array{Plane, Plane}  $colours of the other
     */
    private function isTintedWithin(array $tinted, Plane $other, array $colours): bool
    {
        $all = $alone = 0;
        foreach ($tinted as [$left, $top]) {
            for ($y = $top; $y < $top + self::BLOCK; $y++) {
                for ($i = $y * $this->width + $left, $end = $i + self::BLOCK; $i < $end; $i++) {
                    if (
                        abs($this->colours[0]->values[$i] - $colours[0]->values[$i]) > self::TINT
                        || abs($this->colours[1]->values[$i] - $colours[1]->values[$i]) > self::TINT
                    ) {
                        $all++;
                        $alone += (int) (abs($this->bright->values[$i] - $other->values[$i]) <= 2 * self::LOOSE);
                    }
                }
            }
        }

        return $alone <= self::SPILT * $all;
    }

    /**
     * Whether all that differs is a translucent mark of white or black over one of the two: it draws all that it covers
     * into one direction and not all the way, takes colours towards grey, and lies over something.
     *
     * @param  array<string, array{int, int}>  $drawn
     * @param  array{Plane, Plane}  $colours of the other
     */
    private function isMark(array $drawn, Plane $other, array $colours): bool
    {
        $covered = [];
        foreach ($drawn as [$left, $top]) {
            for ($y = $top, $bottom = min($this->height, $top + self::BLOCK); $y < $bottom; $y++) {
                for ($x = $left, $right = min($this->width, $left + self::BLOCK); $x < $right; $x++) {
                    $i = $y * $this->width + $x;
                    if (abs($this->bright->values[$i] - $other->values[$i]) > 2 * self::LOOSE) {
                        $covered[$i] = true;
                    }
                }
            }
        }
        $covered = array_keys($covered);
        $ways = [
            [$this->bright, $other, $this->colours, $colours],
            [$other, $this->bright, $colours, $this->colours],
        ];
        foreach ($ways as [$plain, $marked, $before, $after]) {
            foreach ([255, 0] as $ink) {
                if (
                    self::isDrawnTo($ink, $covered, $plain->values, $marked->values)
                    && self::isGreyer($covered, $before, $after)
                ) {
                    return true;
                }
            }
        }

        return false;
    }

    /**
     * @param  list<int>  $covered pixels
     * @param  list<int>  $plain
     * @param  list<int>  $marked
     */
    private static function isDrawnTo(int $ink, array $covered, array $plain, array $marked): bool
    {
        $count = count($covered);
        $against = $beyond = $a = $b = $aa = $bb = $ab = 0;
        foreach ($covered as $i) {
            [$one, $two] = [$plain[$i], $marked[$i]];
            $whole = $ink - $one;
            $part = $two - $one;
            $against += (int) ($whole * $part < 0);
            $beyond += (int) (abs($part) > self::HIDDEN * abs($whole) + self::LOOSE);
            $a += $one;
            $b += $two;
            $aa += $one * $one;
            $bb += $two * $two;
            $ab += $one * $two;
        }
        if ($count === 0 || $against > self::FEW * $count || $beyond > self::FEW * $count) {
            return false;
        }
        $spread = $aa - $a * $a / $count;
        $other = $bb - $b * $b / $count;

        return $spread > self::BENEATH ** 2 * $count
            && $other > 0
            && ($ab - $a * $b / $count) / sqrt($spread * $other) > self::SHOWN;
    }

    /**
     * @param  list<int>  $covered
     * @param  array{Plane, Plane}  $before
     * @param  array{Plane, Plane}  $after
     */
    private static function isGreyer(array $covered, array $before, array $after): bool
    {
        $beyond = 0;
        foreach ($covered as $i) {
            foreach ([0, 1] as $n) {
                $from = $before[$n]->values[$i] - self::NEUTRAL;
                $to = $after[$n]->values[$i] - self::NEUTRAL;
                if ($to < min($from, 0) - self::TINT || $to > max($from, 0) + self::TINT) {
                    $beyond++;
                    break;
                }
            }
        }

        return $beyond <= self::FEW * count($covered);
    }

    /**
     * Blocks that touch, as one place.
     *
     * @param  array<string, array{int, int}>  $blocks
     * @return list<array{x: float, y: float, width: float, height: float}>
     */
    private function joined(array $blocks): array
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

        return array_values(array_map(fn (array $place): array => [
            'x' => round($place[0] / $this->width, 4),
            'y' => round($place[1] / $this->height, 4),
            'width' => round(min($this->width, $place[2]) / $this->width - $place[0] / $this->width, 4),
            'height' => round(min($this->height, $place[3]) / $this->height - $place[1] / $this->height, 4),
        ], $places));
    }
}
