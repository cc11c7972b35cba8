<?php

declare(strict_types=1);

namespace App\Bytes;

use Ylema\Sites\WriteRefused;

/**
 * A folder of this machine that holds what is written into it: where a path lies is looked up at the moment of writing,
 * with no remembered answer. A folder that was one when a plan was made may be a link by now, and what lies behind it
 * is none of ours.
 */
final readonly class Root
{
    /** @param  string  $called in sentences, such as "the site's folder" */
    public function __construct(public string $folder, private string $called)
    {
    }

    /**
     * @param  string  $path below it
     * @return string the path with its folder looked up; its last part is as it was said, be it a link
     *
     * @throws WriteRefused
     */
    public function place(string $path): string
    {
        $file = $this->at($path);
        clearstatcache(true);
        $folder = dirname($file);
        $below = '';
        while (! file_exists($folder) && ! is_link($folder) && strlen($folder) > 1) {
            $below = '/'.basename($folder).$below;
            $folder = dirname($folder);
        }
        if (! $this->holds($folder)) {
            throw new WriteRefused(
                "\"$path\"",
                is_dir($this->folder)
                    ? "its folder is a link that leads out of $this->called"
                    : "$this->called ($this->folder) is not there. Mount or restore it, then try again",
            );
        }

        return realpath($folder)."$below/".basename($file);
    }

    /** Whether something really lies in it, with all links followed. */
    public function holds(string $file): bool
    {
        $real = realpath($file);
        $root = realpath($this->folder);

        return $real !== false && $root !== false && str_starts_with("$real/", rtrim($root, '/').'/');
    }

    /** @throws WriteRefused for what is no path below it */
    public function at(string $path): string
    {
        if (str_contains($path, "\0") || in_array('..', explode('/', $path), true)) {
            throw new WriteRefused('"'.strtr($path, ["\0" => '␀']).'"', "it is no path below $this->called");
        }

        return rtrim($this->folder, '/').'/'.ltrim($path, '/');
    }
}
