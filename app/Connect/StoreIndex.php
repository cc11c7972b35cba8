<?php

declare(strict_types=1);

namespace App\Connect;

use Ylema\Addresses\FileIndex;
use Ylema\Sites\MediaStore;

/** Asks the files themselves, where nothing was read yet: whether they are there, and no more. */
final readonly class StoreIndex implements FileIndex
{
    public function __construct(private MediaStore $files)
    {
    }

    public function existing(array $paths): array
    {
        $existing = [];
        foreach ($paths as $path) {
            $state = $this->files->state($path);
            if ($state !== null) {
                $existing[$path] = $state->size;
            }
        }

        return $existing;
    }

    public function folded(array $folds): array
    {
        return [];
    }

    public function named(array $names): array
    {
        return [];
    }

    public function stemmed(array $stems): array
    {
        return [];
    }

    public function listed(array $paths): array
    {
        return [];
    }

    public function sameBytes(array $paths): array
    {
        return [];
    }
}
