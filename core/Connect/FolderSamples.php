<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** The port through which a proposal looks into a folder of files that nobody described. */
interface FolderSamples
{
    /** @return iterable<string> paths below the folder, of files of any kind */
    public function paths(): iterable;

    /** The beginning of a file's text; empty where it cannot be read. */
    public function text(string $path): string;
}
