<?php

declare(strict_types=1);

namespace Ylema\Move;

/** Where each path goes when a folder moves, or a file with its renditions. */
final readonly class Relocation
{
    /**
     * @param  string  $from a folder, ending in `/`, or the path of a file
     * @param  array<string, string>  $files of a file and its renditions: path → new path; empty for a folder
     */
    private function __construct(public string $from, public string $to, private array $files)
    {
    }

    /** @param  string  $to ending in `/` */
    public static function ofFolder(string $from, string $to): self
    {
        return new self($from, $to, []);
    }

    /**
     * Renditions keep what their name says beyond the original's: `boat.w480.jpg` beside `boat.jpg` becomes
     * `ship.w480.jpg` beside `ship.jpg`. One that is called otherwise keeps its name.
     *
     * @param  list<string>  $renditions
     */
    public static function ofFile(string $from, string $to, array $renditions): self
    {
        $files = [$from => $to];
        [$old, $new] = [self::stem($from), self::stem($to)];
        foreach ($renditions as $rendition) {
            $name = basename($rendition);
            $isBeside = dirname($rendition) === dirname($from);
            $files[$rendition] = self::in($isBeside ? dirname($to) : dirname($rendition))
                .(str_starts_with($name, $old) ? $new.substr($name, strlen($old)) : $name);
        }

        return new self($from, $to, $files);
    }

    /** @return string|null null for what stays where it is */
    public function of(string $path): ?string
    {
        if ($this->files !== []) {
            return $this->files[$path] ?? null;
        }

        return str_starts_with($path, $this->from) ? $this->to.substr($path, strlen($this->from)) : null;
    }

    /** @return list<string> the paths that move, where they are few enough to be named; none for a folder */
    public function named(): array
    {
        return array_map(strval(...), array_keys($this->files));
    }

    private static function stem(string $path): string
    {
        return pathinfo($path, PATHINFO_FILENAME);
    }

    private static function in(string $folder): string
    {
        return $folder === '.' ? '' : "$folder/";
    }
}
