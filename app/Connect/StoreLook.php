<?php

declare(strict_types=1);

namespace App\Connect;

use Ylema\Connect\FolderSamples;
use Ylema\Failure;
use Ylema\Sites\MediaStore;
use Ylema\Sites\StoredFile;

/** Files on another machine that nobody described. */
final readonly class StoreLook implements FolderSamples
{
    private const BEGINNING = 65536;

    public function __construct(private MediaStore $files)
    {
    }

    public function paths(): iterable
    {
        foreach ($this->files->files() as $file) {
            if ($file instanceof StoredFile) {
                yield $file->path;
            }
        }
    }

    public function text(string $path): string
    {
        try {
            return substr($this->files->read($path), 0, self::BEGINNING);
        } catch (Failure) {
            return '';
        }
    }
}
