<?php

declare(strict_types=1);

namespace Ylema\Imaging;

use InvalidArgumentException;

/**
 * How a picture looks, in three kilobytes: brightness and colour in 32 by 32 cells, of whatever shape it was. From it
 * come a fingerprint of 64 bits that nearly equal pictures nearly share, and the answer whether one picture is a part
 * of another.
 *
 * A fingerprint has one bit for each pair of neighbours in 9 by 8 cells: whether it grows brighter to the right. It
 * survives other sizes, types, qualities and brightness, since the order of neighbours does (gradient hashing).
 */
final readonly class Look
{
    public const SIDE = 32;

    /** Cells of a part that are compared with another picture. */
    private const PART = 12;

    /** Cells across of which colours are compared. */
    private const TONES = 6;

    /** How far apart the colours of one picture may be, of 255; another type or quality moves them a little. */
    private const COLOURED = 3.0;

    /** The same for a single cell: one thing in the middle may be of another colour. */
    private const TINT = 12.0;

    /** What counts as brighter, of 255. */
    private const STEP = 2.0;

    /** How alike two lists of cells must be to be of one picture; 1 is "the same but for brightness and contrast". */
    private const ALIKE = 0.97;

    /** The same, for what is then compared at a resolution at which letters live; a part may lie beside its place. */
    private const LIKELY = 0.98;

    private const LIKELY_PART = 0.95;

    /** Cells that may be far apart then, of all: a mark over a picture is in a few. */
    private const FAR = 0.03;

    private const FAR_PART = 0.08;

    /** What is far, of 255. */
    private const MARK = 20.0;

    /** How far one cell may be from the other's then, of 255: other words or another face are far in a few cells. */
    private const APART = 14.0;

    /** @var list<int> */
    private array $sums;

    /** @param  string  $cells three times SIDE × SIDE bytes, row by row: brightness, then both differences of colour */
    public function __construct(public string $cells)
    {
        if (strlen($cells) !== 3 * self::SIDE * self::SIDE) {
            throw new InvalidArgumentException(
                'A look has three times '.self::SIDE.' by '.self::SIDE.' cells.',
            );
        }
        $this->sums = self::sums($cells);
    }

    /**
     * @param  list<array{int, int, int}>  $pixels SIDE × SIDE of them, row by row: red, green and blue up to 255
     */
    public static function ofPixels(array $pixels): self
    {
        $bright = $blue = $red = '';
        foreach ($pixels as [$r, $g, $b]) {
            // Brightness and the differences of colour as ITU-R BT.601 weighs them.
            $y = 0.299 * $r + 0.587 * $g + 0.114 * $b;
            $bright .= chr((int) round($y));
            $blue .= chr((int) max(0, min(255, round(128 + 0.564 * ($b - $y)))));
            $red .= chr((int) max(0, min(255, round(128 + 0.713 * ($r - $y)))));
        }

        return new self($bright.$blue.$red);
    }

    /** Of the whole picture. */
    public function fingerprint(): int
    {
        return $this->of(0.0, 0.0, 1.0, 1.0);
    }

    /** Whether it says anything: an even surface looks like any other. */
    public function isPlain(): bool
    {
        $values = $this->values();
        $mean = array_sum($values) / count($values);
        $spread = 0.0;
        foreach ($values as $value) {
            $spread += ($value - $mean) ** 2;
        }

        return sqrt($spread / count($values)) < 4.0;
    }

    /**
     * Of parts of it that are cut out often: the middle, the middle of one side with all of the other, and what is left
     * where something at one side was cut off.
     *
     * @return list<int> the fingerprint of each part
     */
    public function parts(): array
    {
        return array_map(fn (array $place): int => $this->of(...$place), self::places());
    }

    /** How many bits two fingerprints differ in. */
    public static function distance(int $one, int $other): int
    {
        $bits = $one ^ $other;
        // Counted in halves: an int is signed, and shifting keeps its sign.
        $count = 0;
        foreach ([$bits & 0xFFFFFFFF, ($bits >> 32) & 0xFFFFFFFF] as $half) {
            $half -= ($half >> 1) & 0x55555555;
            $half = ($half & 0x33333333) + (($half >> 2) & 0x33333333);
            $count += (((($half + ($half >> 4)) & 0x0F0F0F0F) * 0x01010101) & 0xFFFFFFFF) >> 24;
        }

        return $count;
    }

    /** Whether both show the same whole picture. */
    public function isSameAs(self $other): bool
    {
        return self::areAlike($this->cut(0.0, 0.0, 1.0, 1.0), $other->cut(0.0, 0.0, 1.0, 1.0))
            && $this->isColouredAs($other);
    }

    /** Whether both may show the same whole picture, also with something drawn over one: worth a closer look. */
    public function couldBe(self $other): bool
    {
        $own = $this->cut(0.0, 0.0, 1.0, 1.0);

        return self::areLikely($own, $other->cut(0.0, 0.0, 1.0, 1.0), self::LIKELY, self::FAR);
    }

    /**
     * Whether this picture may be a part of another: worth a closer look.
     *
     * @param  int  $which of the other's parts()
     */
    public function couldBePartOf(self $whole, int $which): bool
    {
        $place = self::places()[$which] ?? null;

        return $place !== null
            && self::areLikely(
                $this->cut(0.0, 0.0, 1.0, 1.0),
                $whole->cut(...$place),
                self::LIKELY_PART,
                self::FAR_PART,
            );
    }

    /** Where one of the parts() lies. */
    public static function place(int $which): Cutting
    {
        return new Cutting(...self::places()[$which] ?? [0.0, 0.0, 1.0, 1.0]);
    }

    /** @return list<array{float, float, float, float}> left, top, width and height, in shares of the whole */
    private static function places(): array
    {
        $places = [];
        foreach ([0.9, 0.8, 0.7, 0.6] as $share) {
            $places[] = [(1 - $share) / 2, (1 - $share) / 2, $share, $share];
        }
        // Other shapes, as a square of a wide picture is: all of one side, the middle of the other.
        foreach ([0.9, 0.75, 0.67, 0.56] as $share) {
            $places[] = [(1 - $share) / 2, 0.0, $share, 1.0];
            $places[] = [0.0, (1 - $share) / 2, 1.0, $share];
        }
        // Without something at one side.
        foreach ([0.9, 0.8, 0.7] as $share) {
            array_push(
                $places,
                [0.0, 0.0, $share, 1.0],
                [1 - $share, 0.0, $share, 1.0],
                [0.0, 0.0, 1.0, $share],
                [0.0, 1 - $share, 1.0, $share],
            );
        }

        return $places;
    }

    private function isColouredAs(self $other): bool
    {
        $apart = 0.0;
        $count = 0;
        for ($row = 0; $row < self::TONES; $row++) {
            for ($column = 0; $column < self::TONES; $column++) {
                [$left, $top] = [$column / self::TONES, $row / self::TONES];
                $size = 1 / self::TONES;
                foreach ([1, 2] as $plane) {
                    $own = abs(
                        $this->mean($left, $top, $left + $size, $top + $size, $plane) -
                            $other->mean($left, $top, $left + $size, $top + $size, $plane),
                    );
                    if ($own > self::TINT) {
                        return false;
                    }
                    $apart += $own;
                    $count++;
                }
            }
        }

        return $apart / $count <= self::COLOURED;
    }

    private function of(float $x, float $y, float $wide, float $high): int
    {
        $bits = 0;
        for ($row = 0; $row < 8; $row++) {
            $before = null;
            for ($column = 0; $column < 9; $column++) {
                $now = $this->mean(
                    $x + ($wide * $column) / 9,
                    $y + ($high * $row) / 8,
                    $x + ($wide * ($column + 1)) / 9,
                    $y + ($high * ($row + 1)) / 8,
                );
                if ($before !== null) {
                    // An even sky is no steeper to the one side than to the other, whatever a codec made of it.
                    $bits = ($bits << 1) | ($now > $before + self::STEP ? 1 : 0);
                }
                $before = $now;
            }
        }

        return $bits;
    }

    /** Mean of a rectangle, in shares of the whole; cells at its edge count by their share. */
    private function mean(float $left, float $top, float $right, float $bottom, int $plane = 0): float
    {
        $area = ($right - $left) * ($bottom - $top) * self::SIDE * self::SIDE;
        $sum =
            $this->upTo($right, $bottom, $plane) -
            $this->upTo($left, $bottom, $plane) -
            $this->upTo($right, $top, $plane) +
            $this->upTo($left, $top, $plane);

        return $area > 0 ? $sum / $area : 0.0;
    }

    /** The sum of all that lies left of and above a point: between the corners of a cell it grows evenly. */
    private function upTo(float $x, float $y, int $plane): float
    {
        [$x, $y] = [min($x, 1.0) * self::SIDE, min($y, 1.0) * self::SIDE];
        [$column, $row] = [min((int) $x, self::SIDE - 1), min((int) $y, self::SIDE - 1)];
        [$x, $y] = [$x - $column, $y - $row];
        $at = ($plane * (self::SIDE + 1) + $row) * (self::SIDE + 1) + $column;
        $below = $at + self::SIDE + 1;

        return (1 - $y) * ((1 - $x) * $this->sums[$at] + $x * $this->sums[$at + 1]) +
            $y * ((1 - $x) * $this->sums[$below] + $x * $this->sums[$below + 1]);
    }

    /** @return list<int> the summed-area table of each plane, one wider and higher than it */
    private static function sums(string $cells): array
    {
        $sums = [];
        $at = 0;
        for ($plane = 0; $plane < 3; $plane++) {
            $above = array_fill(0, self::SIDE + 1, 0);
            array_push($sums, ...$above);
            for ($row = 0; $row < self::SIDE; $row++) {
                $sum = 0;
                $line = [0];
                for ($column = 0; $column < self::SIDE; $column++) {
                    $sum += ord($cells[$at++]);
                    $line[] = $sum + $above[$column + 1];
                }
                array_push($sums, ...$line);
                $above = $line;
            }
        }

        return $sums;
    }

    /** @return list<float> PART × PART cells of a part */
    private function cut(float $x, float $y, float $wide, float $high): array
    {
        $cells = [];
        for ($row = 0; $row < self::PART; $row++) {
            for ($column = 0; $column < self::PART; $column++) {
                $cells[] = $this->mean(
                    $x + ($wide * $column) / self::PART,
                    $y + ($high * $row) / self::PART,
                    $x + ($wide * ($column + 1)) / self::PART,
                    $y + ($high * ($row + 1)) / self::PART,
                );
            }
        }

        return $cells;
    }

    /** @return list<float> */
    private function values(): array
    {
        return array_map(
            static fn (string $cell): float => (float) ord($cell),
            str_split(substr($this->cells, 0, self::SIDE * self::SIDE)),
        );
    }

    /**
     * Pearson's correlation, which forgets brightness and contrast; 0 where one of both is even.
     *
     * @param  list<float>  $one
     * @param  list<float>  $other
     */
    private static function correlation(array $one, array $other): float
    {
        $count = max(1, count($one));
        $meanOne = array_sum($one) / $count;
        $meanOther = array_sum($other) / $count;
        $both = $spreadOne = $spreadOther = 0.0;
        foreach ($one as $i => $value) {
            $a = $value - $meanOne;
            $b = $other[$i] - $meanOther;
            $both += $a * $b;
            $spreadOne += $a * $a;
            $spreadOther += $b * $b;
        }

        return $spreadOne < 1 || $spreadOther < 1 ? 0.0 : $both / sqrt($spreadOne * $spreadOther);
    }

    /**
     * Whether two lists of cells are of one picture: by their correlation, and by the cell that is furthest apart once
     * brightness and contrast are evened out.
     *
     * @param  list<float>  $one
     * @param  list<float>  $other
     */
    private static function areAlike(array $one, array $other): bool
    {
        if (self::correlation($one, $other) < self::ALIKE) {
            return false;
        }
        foreach (self::apart($one, $other) as $apart) {
            if ($apart > self::APART) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param  list<float>  $one
     * @param  list<float>  $other
     */
    private static function areLikely(array $one, array $other, float $least, float $far): bool
    {
        return self::correlation($one, $other) >= $least && count(array_filter(
            self::apart($one, $other),
            static fn (float $apart): bool => $apart > self::MARK,
        )) <= $far * count($one);
    }

    /**
     * How far cells are apart once brightness and contrast are evened out.
     *
     * @param  list<float>  $one
     * @param  list<float>  $other neither of them even
     * @return list<float>
     */
    private static function apart(array $one, array $other): array
    {
        $count = max(1, count($one));
        [$meanOne, $meanOther] = [array_sum($one) / $count, array_sum($other) / $count];
        $spreadOne = $spreadOther = 0.0;
        foreach ($one as $i => $value) {
            $spreadOne += ($value - $meanOne) ** 2;
            $spreadOther += ($other[$i] - $meanOther) ** 2;
        }
        $contrast = sqrt($spreadOne / $spreadOther);

        return array_map(
            static fn (float $a, float $b): float => abs($a - $meanOne - ($b - $meanOther) * $contrast),
            $one,
            $other,
        );
    }
}
