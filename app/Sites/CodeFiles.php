<?php

declare(strict_types=1);

namespace App\Sites;

use Generator;
use Symfony\Component\Finder\Exception\AccessDeniedException;
use Symfony\Component\Finder\Exception\DirectoryNotFoundException;
use Symfony\Component\Finder\Finder;
use Symfony\Component\Finder\Glob;
use Ylema\Sites\UnreadFile;

/** The files of the site's own code that the field map lists: templates, styles, scripts. They are only read. */
final readonly class CodeFiles
{
    /** Bytes of one file; what is larger was made by a machine, and is read to here. */
    private const LARGEST = 8 * 1024 * 1024;

    /** @param  list<string>  $patterns below the folder, with `*`, `**` and `{a,b}` */
    public function __construct(private string $folder, private array $patterns)
    {
    }

    /** @return Generator<string, string|UnreadFile> path → its text */
    public function texts(): Generator
    {
        $expressions = array_map(
            static fn (string $pattern): string => Glob::toRegex(ltrim($pattern, '/'), false),
            $this->patterns,
        );
        if ($expressions === []) {
            return;
        }
        try {
            $found = Finder::create()
                ->files()
                ->in($this->folder)
                ->ignoreDotFiles(false)
                ->ignoreVCS(true)
                ->ignoreUnreadableDirs(false)
                ->path($expressions)
                ->sortByName();
            foreach ($found as $file) {
                $path = str_replace('\\', '/', $file->getRelativePathname());
                $text = $file->isReadable() ? @file_get_contents($file->getPathname(), length: self::LARGEST) : false;
                yield $path => is_string($text)
                    ? $text
                    : new UnreadFile($path, 'This file of the site’s code cannot be read. Give this user the right.');
            }
        } catch (DirectoryNotFoundException|AccessDeniedException $e) {
            yield '' => new UnreadFile($this->folder, "The site’s code cannot be listed: {$e->getMessage()}");
        }
    }
}
