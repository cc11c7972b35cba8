<?php

declare(strict_types=1);

namespace App\Connect;

use Symfony\Component\Finder\Finder;
use Ylema\Connect\FolderSamples;

/** A folder of files that nobody described. */
final readonly class FolderLook implements FolderSamples
{
    private const BEGINNING = 65536;

    public function __construct(private string $folder)
    {
    }

    public function paths(): iterable
    {
        $found = Finder::create()
            ->files()
            ->in($this->folder)
            ->ignoreVCS(true)
            ->ignoreUnreadableDirs()
            ->exclude(['node_modules', 'vendor']);
        foreach ($found as $file) {
            yield str_replace('\\', '/', $file->getRelativePathname());
        }
    }

    public function text(string $path): string
    {
        return (string) @file_get_contents("$this->folder/$path", length: self::BEGINNING);
    }
}
