<?php

declare(strict_types=1);

namespace Ylema\Imaging;

/** Width and height in pixels, both at least 1. */
final readonly class Size
{
    public function __construct(public int $width, public int $height)
    {
        if ($width < 1 || $height < 1) {
            throw new InvalidSize($width, $height);
        }
    }

    public function ratio(): float
    {
        return $this->width / $this->height;
    }

    public function pixels(): int
    {
        return $this->width * $this->height;
    }

    /** The largest size of the same shape that fits into the box; never larger than the original. */
    public function within(self $box): self
    {
        $scale = min(1.0, $box->width / $this->width, $box->height / $this->height);

        return new self(max(1, (int) round($this->width * $scale)), max(1, (int) round($this->height * $scale)));
    }

    public function __toString(): string
    {
        return $this->width.' × '.$this->height;
    }
}
