<?php

declare(strict_types=1);

namespace Ylema\Swap;

use Transliterator;
use Ylema\Addresses\RenditionNames;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\Size;
use Ylema\Plan\Facts;
use Ylema\Plan\KeptFile;
use Ylema\Plan\MediaFacts;
use Ylema\Sites\NewMedia;

/** An uploaded file as an item of its own: where it lies, which renditions it gets and what they are called. */
final readonly class NewItem
{
    /** How many names are tried at once. */
    private const NAMES = 20;

    /** @param  array<string, Size>  $renditions path → size */
    private function __construct(public string $path, public KeptFile $file, public array $renditions)
    {
    }

    /** Beside the item that gives way, in the sizes that it was made in, under names that are free. */
    public static function beside(MediaFacts $from, KeptFile $file, Facts $facts): self
    {
        $folder = dirname($from->path);
        $sizes = [];
        if ($file->pixels !== null && $file->isDrawable) {
            $widths = $facts->chosenWidths();
            $sizes = $widths === null ? self::sizesLike($from, $file->pixels) : self::sizesOf($widths, $file->pixels);
        }

        return self::named($folder === '.' ? '' : "$folder/", $file, $sizes, $facts, []);
    }

    /**
     * In a folder, in the widths that the site usually makes.
     *
     * @param  string  $folder ending in `/`
     * @param  list<int>  $widths
     * @param  array<string, true>  $claimed paths that are given out already
     */
    public static function in(string $folder, KeptFile $file, array $widths, Facts $facts, array $claimed): self
    {
        $sizes = [];
        $pixels = $file->isDrawable && ! $file->isAnimated ? $file->pixels : null;
        if ($pixels !== null) {
            $sizes = self::sizesOf($widths, $pixels);
        }

        return self::named($folder, $file, $sizes, $facts, $claimed);
    }

    /**
     * @param  list<Size>  $sizes
     * @param  array<string, true>  $claimed
     */
    private static function named(string $folder, KeptFile $file, array $sizes, Facts $facts, array $claimed): self
    {
        $stem = $folder.self::slug($file->name);
        for ($first = 1; ; $first += self::NAMES) {
            $tries = [];
            for ($n = $first; $n < $first + self::NAMES; $n++) {
                $path = $stem.($n === 1 ? '' : "-$n").'.'.$file->extension;
                $tries[] = new self($path, $file, self::sized($path, $sizes, $facts->renditionNames()));
            }
            $taken = $facts->taken(array_merge(...array_map(static fn (self $try): array => $try->paths(), $tries)));
            foreach ($tries as $try) {
                if (array_intersect_key(array_flip($try->paths()), $taken + $claimed) === []) {
                    return $try;
                }
            }
        }
    }

    /** @return non-empty-list<string> */
    public function paths(): array
    {
        return [$this->path, ...array_map(strval(...), array_keys($this->renditions))];
    }

    public function media(string $title, string $alt, string $caption = '', string $credit = ''): NewMedia
    {
        $renditions = [];
        foreach ($this->renditions as $path => $size) {
            $renditions[] = ['path' => $path, 'width' => $size->width, 'height' => $size->height];
        }

        return new NewMedia(
            $this->path,
            $title === '' ? self::headline($this->file->name) : $title,
            $alt,
            $this->file->pixels?->width,
            $this->file->pixels?->height,
            $renditions,
            $caption,
            $credit,
        );
    }

    /** As a planner knows items; its id is still to come. */
    public function facts(string $title): MediaFacts
    {
        $files = [new PictureFile($this->path, $this->file->pixels, true)];
        foreach ($this->renditions as $path => $size) {
            $files[] = new PictureFile($path, $size);
        }

        return new MediaFacts(
            '',
            $files,
            title: $title === '' ? self::headline($this->file->name) : $title,
            path: $this->path,
        );
    }

    /**
     * Widths in the picture's own shape, as far as they are smaller.
     *
     * @param  list<int>  $widths
     * @return list<Size>
     */
    private static function sizesOf(array $widths, Size $pixels): array
    {
        $sizes = [];
        foreach ($widths as $width) {
            if ($width < $pixels->width) {
                $sizes[] = new Size($width, max(1, (int) round($width / $pixels->ratio())));
            }
        }

        return $sizes;
    }

    /**
     * The sizes that the old item was made in, in the new picture's own shape; a square cut stays square. Never
     * enlarged.
     *
     * @return list<Size>
     */
    private static function sizesLike(MediaFacts $from, Size $size): array
    {
        $sizes = [];
        foreach ($from->files as $file) {
            if ($file->isOriginal || $file->size === null) {
                continue;
            }
            $width = $file->size->width;
            $wanted =
                $width === $file->size->height
                    ? $file->size
                    : new Size($width, max(1, (int) round($width / $size->ratio())));
            if ($wanted->width < $size->width && $wanted->height <= $size->height) {
                $sizes[(string) $wanted] = $wanted;
            }
        }

        return array_values($sizes);
    }

    /**
     * @param  list<Size>  $sizes
     * @return array<string, Size> path → size; of two sizes with one name, the first
     */
    private static function sized(string $path, array $sizes, RenditionNames $names): array
    {
        $named = [];
        foreach ($sizes as $size) {
            $name = $names->renditionOf($path, $size->width, $size->height);
            if ($name !== null && $name !== $path) {
                $named[$name] ??= $size;
            }
        }

        return $named;
    }

    /** A name of plain letters, digits and hyphens, that every system and every address can say. */
    private static function slug(string $name): string
    {
        $plain = Transliterator::create('Any-Latin; Latin-ASCII; Lower()')?->transliterate(
            mb_scrub(pathinfo($name, PATHINFO_FILENAME)),
        );
        $slug = trim(preg_replace('~[^a-z0-9]+~', '-', is_string($plain) ? $plain : '') ?? '', '-');

        return $slug === '' ? 'file' : substr($slug, 0, 80);
    }

    private static function headline(string $name): string
    {
        return mb_convert_case(
            trim(preg_replace('~[-_\s]+~', ' ', mb_scrub(pathinfo($name, PATHINFO_FILENAME))) ?? ''),
            MB_CASE_TITLE_SIMPLE,
        );
    }
}
