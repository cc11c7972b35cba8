<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Imaging\PictureFile;

/** What a planner must know of a media item: its number in the index, its id in the source, its words and its files. */
final readonly class MediaFacts
{
    /**
     * @param  string  $id in the source; empty for a file that no row lists
     * @param  non-empty-list<PictureFile>  $files the original among them
     * @param  bool  $hasOriginal whether the original lies in the store
     * @param  int  $uses how many references lead to it
     * @param  int  $item its number in the index; 0 for one that is not there yet
     */
    public function __construct(
        public string $id,
        public array $files,
        public int $item = 0,
        public string $title = '',
        public string $path = '',
        public bool $hasOriginal = true,
        public float $focusX = 0.5,
        public float $focusY = 0.5,
        public int $uses = 0,
    ) {
    }

    /** Its title, or its path where it has none. */
    public function name(): string
    {
        return $this->title === '' ? $this->path : $this->title;
    }

    /** @return list<string> */
    public function paths(): array
    {
        return array_map(static fn (PictureFile $file): string => $file->path, $this->files);
    }

    public function file(string $path): ?PictureFile
    {
        foreach ($this->files as $file) {
            if ($file->path === $path) {
                return $file;
            }
        }

        return null;
    }

    public function original(): PictureFile
    {
        foreach ($this->files as $file) {
            if ($file->isOriginal) {
                return $file;
            }
        }

        return $this->files[0];
    }
}
