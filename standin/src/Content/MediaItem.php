<?php

declare(strict_types=1);

namespace Standin\Content;

/** One media item of the demo: what is drawn, where it lies, and what its row says. */
final class MediaItem
{
    /** @var array<string, array{int, int}> rendition path → width and height */
    public array $renditions = [];

    /** @param  list<string>  $tags */
    public function __construct(
        public readonly int $id,
        public readonly string $path,
        public readonly string $motif,
        public readonly int $seed,
        public readonly int $width,
        public readonly int $height,
        public readonly string $title,
        public readonly string $alt,
        public readonly string $label = '',
        public readonly string $credit = '',
        public readonly array $tags = [],
        public readonly ?int $copyOf = null,
        public readonly bool $recoded = false,
        public readonly bool $cut = false,
    ) {
    }

    public function extension(): string
    {
        return strtolower(pathinfo($this->path, PATHINFO_EXTENSION));
    }

    /** When it was uploaded, in seconds since 1970; null for a moment ago. */
    public function uploaded(): ?int
    {
        if (preg_match('~archive/left-1[12]~', $this->path) === 1) {
            return null;
        }
        $year = preg_match('~/(20\d\d)/~', $this->path, $m) === 1 ? (int) $m[1] : 2014 + (($this->id * 7) % 11);

        return (int) gmmktime(9, 30, $this->id % 60, 1 + (($this->id * 5) % 12), 1 + (($this->id * 11) % 28), $year);
    }

    /** The smallest rendition at least this wide, or the original. */
    public function file(int $width): string
    {
        $best = $this->path;
        $bestWidth = $this->width;
        foreach ($this->renditions as $path => [$w, $h]) {
            if ($w >= $width && $w < $bestWidth && abs($w / $h - $this->width / $this->height) < 0.02) {
                [$best, $bestWidth] = [$path, $w];
            }
        }

        return $best;
    }

    public function square(): string
    {
        foreach ($this->renditions as $path => [$w, $h]) {
            if ($w === $h) {
                return $path;
            }
        }

        return $this->path;
    }
}
