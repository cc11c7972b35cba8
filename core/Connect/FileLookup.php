<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\Resolver;

/** The files of a site by their paths and names, so that a value in a table can be told to be one of them. */
final class FileLookup
{
    /** Files of one name that are remembered. */
    private const ALIKE = 12;

    /** Files that were made of others in one way before it is the site's habit. */
    public const HABIT = 3;

    /** @var array<string, true> */
    private array $paths = [];

    /** @var array<string, list<string>> */
    private array $named = [];

    /** @param  iterable<string>  $paths below the site's root */
    public function __construct(iterable $paths)
    {
        foreach ($paths as $path) {
            $this->paths[$path] = true;
            $name = basename($path);
            if (count($this->named[$name] ?? []) < self::ALIKE) {
                $this->named[$name][] = $path;
            }
        }
    }

    public function has(string $path): bool
    {
        return isset($this->paths[$path]);
    }

    /** @return iterable<string> below the root */
    public function paths(): iterable
    {
        foreach (array_keys($this->paths) as $path) {
            yield (string) $path;
        }
    }

    public function count(): int
    {
        return count($this->paths);
    }

    /** @return list<string> folders, each ending in `/` or empty, before which a bare path is a file */
    public function foldersFor(string $bare): array
    {
        $bare = ltrim($bare, '/');
        $folders = [];
        foreach ($bare === '' ? [] : $this->named[basename($bare)] ?? [] as $path) {
            if ($path === $bare) {
                $folders[] = '';
            } elseif (str_ends_with($path, "/$bare")) {
                $folders[] = substr($path, 0, -strlen($bare));
            }
        }

        return $folders;
    }

    /** How many different files a text of any language names, by an address, a path or a bare name. */
    public function namedIn(string $text): int
    {
        $plain = str_replace('\\/', '/', $text);
        preg_match_all('~[^\s"\'`()<>\[\]{}=,;|*?]+\.[a-z0-9]{2,5}(?![\w.-])~i', $plain, $found);
        $named = [];
        foreach ($found[0] as $said) {
            $bare = preg_replace('~^(?:(?:https?:)?//[^/]*/|(?:\.{0,2}/)+)~i', '', rawurldecode($said)) ?? '';
            if (Resolver::hasMediaType($bare) && $this->foldersFor($bare) !== []) {
                $named[$bare] = true;
            }
        }

        return count($named);
    }

    /**
     * How many files have the name of another with something in it.
     *
     * @param  non-empty-string  $pattern of a path, with the other's name before and behind in its groups
     */
    public function madeFrom(string $pattern): int
    {
        $count = 0;
        foreach (array_keys($this->paths) as $path) {
            $count += preg_match($pattern, (string) $path, $m) === 1 && isset($this->paths[$m[1].$m[2]]) ? 1 : 0;
        }

        return $count;
    }

    /**
     * Folders beside originals, and beginnings of names, by which the site keeps smaller pictures that it made.
     *
     * @return list<string> as `thumbs/` or `tn_`
     */
    public function marksOfMade(): array
    {
        $made = $all = [];
        foreach (array_keys($this->paths) as $path) {
            if (preg_match('~^(.*/)?([^/]+/)([^/]+)$~', (string) $path, $m) === 1) {
                $this->tally($m[2], $m[1].$m[3], $made, $all);
            }
            if (preg_match('~^(.*/)?([A-Za-z]{1,12}[_.-])([^/]+)$~', (string) $path, $m) === 1) {
                $this->tally($m[2], $m[1].$m[3], $made, $all);
            }
        }
        $isHabit = static fn (int $count, string $mark): bool => $count >= self::HABIT
            && $count * 2 >= $all[$mark];

        return array_map(strval(...), array_keys(array_filter($made, $isHabit, ARRAY_FILTER_USE_BOTH)));
    }

    /**
     * @param  array<string, int>  $made added to
     * @param  array<string, int>  $all added to
     */
    private function tally(string $mark, string $original, array &$made, array &$all): void
    {
        $all[$mark] = ($all[$mark] ?? 0) + 1;
        $made[$mark] = ($made[$mark] ?? 0) + (isset($this->paths[$original]) ? 1 : 0);
    }

    /** @return list<string> the first parts of all paths, each ending in `/`, the fullest first */
    public function roots(): array
    {
        $roots = [];
        foreach (array_keys($this->paths) as $path) {
            $slash = strpos((string) $path, '/');
            $root = $slash === false ? '' : substr((string) $path, 0, $slash + 1);
            $roots[$root] = ($roots[$root] ?? 0) + 1;
        }
        arsort($roots);

        return array_map(strval(...), array_keys($roots));
    }
}
