<?php

declare(strict_types=1);

namespace Ylema\Imaging;

/**
 * How one plane lies on another of the same size: a pixel at x, y is the other's at scaleX × x + right, scaleY × y +
 * down. Programs that make pictures smaller do not agree on where a pixel is, and a part is cut between pixels.
 */
final readonly class Laid
{
    /** Pixels across at which the search begins. */
    private const COARSE = 80;

    private const ROUNDS = 6;

    /** Pixels at an edge that are not asked. */
    private const EDGE = 2;

    public function __construct(
        public float $scaleX = 1.0,
        public float $scaleY = 1.0,
        public float $right = 0.0,
        public float $down = 0.0,
    ) {
    }

    /**
     * Where the second lies best on the first, by least squares on what is brighter around each pixel (Lucas and
     * Kanade, 1981), first where both are small.
     */
    public static function best(Plane $one, Plane $other): self
    {
        $laid = new self();
        $by = max(1, intdiv($one->width, self::COARSE));
        foreach (array_unique([$by, max(1, intdiv($by, 3)), 1]) as $shrink) {
            $a = $one->shrunk($shrink);
            $b = $other->shrunk($shrink);
            $own = new self($laid->scaleX, $laid->scaleY, $laid->right / $shrink, $laid->down / $shrink);
            $error = self::error($a, $b->laid($own));
            for ($round = 0; $round < ($shrink === 1 ? 2 : self::ROUNDS); $round++) {
                $next = $own->step($a, $b->laid($own));
                $better = self::error($a, $b->laid($next));
                if ($better >= $error) {
                    break;
                }
                [$own, $error] = [$next, $better];
            }
            $laid = new self($own->scaleX, $own->scaleY, $own->right * $shrink, $own->down * $shrink);
        }

        return $laid;
    }

    private static function error(Plane $one, Plane $other): float
    {
        $sum = 0;
        for ($i = 0, $count = count($one->values); $i < $count; $i += 3) {
            // What was changed on purpose must not pull: differences count up to a bound.
            $sum += min(40, abs($one->values[$i] - $other->values[$i]));
        }

        return $sum;
    }

    private function step(Plane $one, Plane $other): self
    {
        [$width, $height] = [$one->width, $one->height];
        // Of each direction by itself: its scale and its shift.
        $x = $y = [0.0, 0.0, 0.0, 0.0, 0.0];
        $stride = max(1, intdiv($width, 160));
        for ($row = self::EDGE; $row < $height - self::EDGE; $row += $stride) {
            for ($column = self::EDGE; $column < $width - self::EDGE; $column += $stride) {
                $i = $row * $width + $column;
                $apart = $one->values[$i] - $other->values[$i];
                if (abs($apart) > 40) {
                    continue;
                }
                $right = ($other->values[$i + 1] - $other->values[$i - 1]) / 2;
                $down = ($other->values[$i + $width] - $other->values[$i - $width]) / 2;
                $x[0] += $right * $right * $column * $column;
                $x[1] += $right * $right * $column;
                $x[2] += $right * $right;
                $x[3] += $right * $apart * $column;
                $x[4] += $right * $apart;
                $y[0] += $down * $down * $row * $row;
                $y[1] += $down * $down * $row;
                $y[2] += $down * $down;
                $y[3] += $down * $apart * $row;
                $y[4] += $down * $apart;
            }
        }
        [$scaleX, $right] = self::solved($x);
        [$scaleY, $down] = self::solved($y);

        return new self(
            $this->scaleX * (1 + $scaleX),
            $this->scaleY * (1 + $scaleY),
            $this->right + $right,
            $this->down + $down,
        );
    }

    /**
     * @param  array{float, float, float, float, float}  $sums
     * @return array{float, float} scale and shift
     */
    private static function solved(array $sums): array
    {
        [$pp, $p, $n, $pd, $d] = $sums;
        $whole = $pp * $n - $p * $p;

        return $whole < 1 ? [0.0, 0.0] : [($pd * $n - $p * $d) / $whole, ($pp * $d - $p * $pd) / $whole];
    }
}
