<?php

declare(strict_types=1);

namespace Ylema\Imaging;

/** One quality of a picture's pixels, as its brightness, row by row: 0 to 255. */
final readonly class Plane
{
    /** @param  list<int>  $values width × height of them */
    public function __construct(public int $width, public int $height, public array $values)
    {
    }

    public static function ofBytes(int $width, int $height, string $bytes): self
    {
        /** @var list<int> $values */
        $values = array_values((array) unpack('C*', $bytes));

        return new self($width, $height, $values);
    }

    /** What a codec sharpens at an edge is one pixel wide: each pixel with its neighbours, one, two, one. */
    public function smooth(): self
    {
        $values = $this->values;
        $count = count($values);
        foreach ([1, $this->width] as $step) {
            $smooth = $values;
            for ($i = $step, $end = $count - $step; $i < $end; $i++) {
                $smooth[$i] = ($values[$i - $step] + 2 * $values[$i] + $values[$i + $step] + 2) >> 2;
            }
            $values = $smooth;
        }

        return new self($this->width, $this->height, array_values($values));
    }

    /** A whole number of pixels as one, in both directions. */
    public function shrunk(int $by): self
    {
        if ($by <= 1) {
            return $this;
        }
        [$width, $height] = [intdiv($this->width, $by), intdiv($this->height, $by)];
        $values = [];
        for ($y = 0; $y < $height; $y++) {
            for ($x = 0; $x < $width; $x++) {
                $sum = 0;
                for ($row = $y * $by, $to = $row + $by; $row < $to; $row++) {
                    for ($i = $row * $this->width + $x * $by, $end = $i + $by; $i < $end; $i++) {
                        $sum += $this->values[$i];
                    }
                }
                $values[] = intdiv($sum, $by * $by);
            }
        }

        return new self($width, $height, $values);
    }

    /** This plane as it lies on another of the same size, between four pixels where it must. */
    public function laid(Laid $laid): self
    {
        [$width, $height] = [$this->width, $this->height];
        $columns = [];
        for ($x = 0; $x < $width; $x++) {
            $at = max(0.0, min($width - 1.001, $laid->scaleX * $x + $laid->right));
            $columns[] = [(int) $at, (int) (256 * ($at - (int) $at))];
        }
        $values = [];
        for ($y = 0; $y < $height; $y++) {
            $at = max(0.0, min($height - 1.001, $laid->scaleY * $y + $laid->down));
            $row = (int) $at * $width;
            $below = (int) (256 * ($at - (int) $at));
            foreach ($columns as [$left, $beside]) {
                $i = $row + $left;
                $upper = (256 - $beside) * $this->values[$i] + $beside * $this->values[$i + 1];
                $lower = (256 - $beside) * $this->values[$i + $width] + $beside * $this->values[$i + $width + 1];
                $values[] = ((256 - $below) * $upper + $below * $lower + 32_768) >> 16;
            }
        }

        return new self($width, $height, $values);
    }

    /** The same with another mean and contrast. */
    public function evened(float $slope, float $offset): self
    {
        return new self($this->width, $this->height, array_map(
            static fn (int $value): int => (int) round($slope * $value + $offset),
            $this->values,
        ));
    }

    /**
     * The least, or the most, of each pixel and its eight neighbours.
     *
     * @return list<int>
     */
    public function extreme(bool $most): array
    {
        $values = $this->values;
        $count = count($values);
        foreach ([1, $this->width] as $step) {
            $from = $values;
            for ($i = $step, $end = $count - $step; $i < $end; $i++) {
                $values[$i] = $most
                    ? max($from[$i - $step], $from[$i], $from[$i + $step])
                    : min($from[$i - $step], $from[$i], $from[$i + $step]);
            }
        }

        return array_values($values);
    }
}
