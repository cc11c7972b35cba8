<?php

declare(strict_types=1);

namespace Ylema\Swap;

use Ylema\Imaging\PictureFile;

/** What the planner must know of a media item: its id in the source and its files, the original among them. */
final readonly class MediaFacts
{
    /** @param  non-empty-list<PictureFile>  $files */
    public function __construct(public string $id, public array $files)
    {
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
