<?php

declare(strict_types=1);

namespace App\Sites\Remote;

use League\Flysystem\FilesystemException;
use RuntimeException;
use Ylema\Failure;

/** Why the machine that holds a site's files lets nobody in. */
final class CannotConnect extends RuntimeException implements Failure, FilesystemException
{
}
