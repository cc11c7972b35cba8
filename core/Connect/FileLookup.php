<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\Resolver;
use Ylema\Addresses\Url;
use Ylema\Reading\Layers\OwnScheme;

/** The files of a site by their paths and names, so that a value in a table can be told to be one of them. */
final class FileLookup
{
    /** Files of one name that are remembered. */
    private const ALIKE = 12;

    /** Files that were made of others in one way before it is the site's habit. */
    private const HABIT = 3;

    /** @var array<string, true> */
    private array $paths = [];

    /** @var array<string, list<string>> */
    private array $named = [];

    /** @var array<string, string> scheme of the site's own addresses → folder below the root, ending in `/` */
    private array $schemes = [];

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

    /**
     * Learns what addresses in schemes of the site's own mean: behind the colon stands what some folder holds.
     *
     * @param  iterable<string>  $texts
     */
    public function learn(iterable $texts): void
    {
        $said = $folders = [];
        foreach ($texts as $text) {
            foreach (self::inSchemes($text) as [$scheme, $path]) {
                $said[$scheme][$path] = true;
            }
        }
        foreach ($said as $scheme => $paths) {
            foreach (array_keys($paths) as $path) {
                foreach (array_unique($this->foldersFor((string) $path)) as $folder) {
                    $folders[$scheme][$folder] = ($folders[$scheme][$folder] ?? 0) + 1;
                }
            }
        }
        foreach ($folders as $scheme => $counted) {
            arsort($counted);
            $isHabit = max($counted) >= self::HABIT && max($counted) * 2 > count($said[$scheme]);
            if ($isHabit && ! in_array($scheme, Url::KNOWN, true)) {
                $this->schemes[$scheme] = (string) array_key_first($counted);
            }
        }
    }

    /** @return array<string, string> scheme of the site's own addresses → folder below the root, ending in `/` */
    public function schemes(): array
    {
        return $this->schemes;
    }

    /** @return array<string, string> the same from the root of the host, as reading rules have them */
    public function schemesFromRoot(): array
    {
        return array_map(static fn (string $folder): string => "/$folder", $this->schemes);
    }

    /** The path below the root of an address in a scheme of the site's own; null for any other. */
    public function pathInScheme(string $address): ?string
    {
        $scheme = OwnScheme::of($address, $this->schemesFromRoot());

        return $scheme === null ? null : ltrim(rawurldecode($scheme->decode($address)), '/');
    }

    /** @return list<array{string, string}> scheme and path of what looks like a file's address in no common scheme */
    private static function inSchemes(string $text): array
    {
        $text = trim($text);
        // A value that is nothing else may have spaces in its path; among other words it ends at one.
        $whole = preg_match('~^([a-z][a-z0-9+.-]+):/{0,3}([^/\s][^\n]*)$~i', $text, $m) === 1
            && Resolver::hasMediaType($m[2])
            && ! str_contains($m[2], ':');
        if ($whole) {
            return [[strtolower($m[1]), rawurldecode($m[2])]];
        }
        $found = [];
        preg_match_all('~(?<![\w+.-])([a-z][a-z0-9+.-]+):/{0,3}(\w[^\s"\'<>()\[\]{}:]*)~i', $text, $all, PREG_SET_ORDER);
        foreach ($all as $one) {
            if (Resolver::hasMediaType($one[2])) {
                $found[] = [strtolower($one[1]), rawurldecode($one[2])];
            }
        }

        return $found;
    }

    public function has(string $path): bool
    {
        return isset($this->paths[$path]);
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
