<?php

declare(strict_types=1);

namespace App\Reading;

use RuntimeException;
use Ylema\Failure;

/** A folder that held files and holds none now; a person must say whether that is true. */
final class FolderEmptied extends RuntimeException implements Failure
{
    public function __construct(public readonly string $folder, public readonly int $files)
    {
        parent::__construct(
            'The folder "'
                .rtrim($folder, '/')
                .'" is empty or not there, and held '
                .number_format($files)
                .' files when it was last read. Is it mounted? Nothing was changed in the index. If the files are '
                .'really gone, read again and say so.',
        );
    }
}
