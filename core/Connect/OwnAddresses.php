<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\Resolver;
use Ylema\Addresses\SiteAddresses;
use Ylema\Addresses\Url;
use Ylema\Addresses\Whose;
use Ylema\Reading\Layers\OwnScheme;
use Ylema\Reading\Layers\ThroughScript;
use Ylema\Reading\Rules;

/**
 * What addresses of the site's own making mean, learned from texts by the files that there are: those in a scheme of
 * its own, and those of a script that shows a file.
 */
final readonly class OwnAddresses
{
    /** Addresses that are looked at; more would tell nothing new. */
    private const MOST = 20_000;

    private const IN_SCHEME = '~(?<![\w+.-])([a-z][a-z0-9+.-]+):/{0,3}(\w[^\s"\'<>()\[\]{}:]*)~i';

    /** A part of an address that says how large a picture shall be, or what is done with it; a year is none. */
    private const SIZE =
        '~^(?!(?:19|20)\d\d$)(?:[wh]?[_-]?\d{2,4}(?:x\d{0,4})?|x\d{2,4}|.*(?:resi[sz]e|crop|fit|scale|thumb).*)$~i';

    /** @var array<string, string> scheme in lower case → folder below the root, ending in `/` */
    private array $schemes;

    /** @var array<string, string> pattern below the root → folder below the root, ending in `/` */
    private array $scripts;

    private Rules $rules;

    /** @param  iterable<string>  $texts */
    public function __construct(
        private FileLookup $files,
        private SiteAddresses $addresses,
        iterable $texts,
    ) {
        $schemes = $scripts = [];
        $seen = 0;
        foreach ($texts as $text) {
            foreach (self::inSchemes($text) as [$scheme, $path]) {
                $schemes[$scheme][$path] ??= $files->foldersFor($path);
            }
            preg_match_all(Links::ANY, html_entity_decode(str_replace('\\/', '/', $text)), $all);
            foreach ($seen < self::MOST ? $all[0] : [] as $address) {
                $seen++;
                foreach ($this->throughScripts($address) as $pattern => $path) {
                    $scripts[$pattern][$path] ??= $files->foldersFor($path);
                }
            }
        }
        $this->schemes = array_diff_key(self::habits($schemes), array_flip(Url::KNOWN));
        $this->scripts = self::habits($scripts);
        $this->rules = new Rules(
            mediaFolders: array_map(static fn (string $root): string => "/$root", $files->roots()),
            schemes: array_map(static fn (string $folder): string => "/$folder", $this->schemes),
            scripts: array_combine(
                array_map(static fn (string $pattern): string => "/$pattern", array_keys($this->scripts)),
                array_map(static fn (string $folder): string => "/$folder", array_values($this->scripts)),
            ),
        );
    }

    /** @return array<string, string> scheme of the site's own addresses → folder below the root, ending in `/` */
    public function schemes(): array
    {
        return $this->schemes;
    }

    /** @return array<string, string> address of a script, with `{path}` → folder below the root, ending in `/` */
    public function scripts(): array
    {
        return $this->scripts;
    }

    /** How texts are read where these are known. */
    public function rules(): Rules
    {
        return $this->rules;
    }

    /** The path below the root of the file that such an address means; null for any other. */
    public function pathOf(string $address): ?string
    {
        $meant = OwnScheme::of($address, $this->rules->schemes)?->decode($address)
            ?? ThroughScript::of($address, $this->rules->scripts)?->decode();

        return $meant === null ? null : $this->addresses->locate($meant)?->path;
    }

    /**
     * @param  array<string, array<string, list<string>>>  $met scheme or pattern → path → folders in which that is one
     * @return array<string, string> those of which most paths are files below one folder
     */
    private static function habits(array $met): array
    {
        $habits = [];
        foreach ($met as $way => $paths) {
            $folders = array_count_values(array_merge([], ...array_map(array_unique(...), array_values($paths))));
            arsort($folders);
            if ($folders !== [] && max($folders) >= FileLookup::HABIT && max($folders) * 2 > count($paths)) {
                $habits[(string) $way] = (string) array_key_first($folders);
            }
        }

        return $habits;
    }

    /** @return list<array{string, string}> scheme and path of what looks like a file's address in a scheme */
    private static function inSchemes(string $text): array
    {
        $text = trim($text);
        // A value that is nothing else may have spaces in its path; among other words it ends at one.
        $isWhole = preg_match('~^([a-z][a-z0-9+.-]+):/{0,3}([^/\s][^\n:]*)$~i', $text, $m) === 1;
        if ($isWhole && Resolver::hasMediaType($m[2])) {
            return [[strtolower($m[1]), rawurldecode($m[2])]];
        }
        $found = [];
        preg_match_all(self::IN_SCHEME, $text, $all, PREG_SET_ORDER);
        foreach ($all as $one) {
            if (Resolver::hasMediaType($one[2])) {
                $found[] = [strtolower($one[1]), rawurldecode($one[2])];
            }
        }

        return $found;
    }

    /** @return array<string, string> pattern → the path of a file that this address would show by it */
    private function throughScripts(string $address): array
    {
        $place = $this->addresses->locate($address);
        $isOurs = $place?->path !== null && in_array($place->whose, [Whose::Own, Whose::Former], true);
        if (! $isOurs || $this->files->has($place->path)) {
            return [];
        }
        $found = [];
        foreach ($place->url->query === null ? [] : explode('&', $place->url->query) as $one) {
            [$name, $value] = [...explode('=', $one, 2), ''];
            if (Resolver::hasMediaType(rawurldecode($value))) {
                $found["$place->path?$name=".ThroughScript::PATH] = ltrim(rawurldecode($value), '/');
            }
        }
        $parts = explode('/', $place->path);
        foreach (array_keys($parts) as $at) {
            $before = array_slice($parts, 0, $at);
            if (preg_grep(self::SIZE, $before) === [] || ! Resolver::hasMediaType($place->path)) {
                continue;
            }
            $pattern = array_map(static fn (string $p): string => preg_match('~\d~', $p) === 1 ? '*' : $p, $before);
            // What begins with any part at all would be everything.
            if ($pattern[0] !== '*' || count($pattern) > 1) {
                $found[implode('/', [...$pattern, ThroughScript::PATH])] = implode('/', array_slice($parts, $at));
            }
        }

        return $found;
    }
}
