<?php

declare(strict_types=1);

namespace Ylema\Addresses;

use InvalidArgumentException;

/**
 * How the site names the files that it derives from an original: one pattern or several, such as
 * `{name}-{width}x{height}.{ext}`, `{name}@{scale}x.{ext}`, `{name}-{word}.{ext}` or `{name}.{ext}.webp`.
 */
final readonly class RenditionNames
{
    public const USUAL = '{name}-{width}x{height}.{ext}';

    private const PARTS = [
        '\{name\}' => '(?<name>.+)', '\{width\}' => '(?<width>\d{1,5})', '\{height\}' => '(?<height>\d{1,5})', '\{scale\}' => '(?<scale>\d(?:\.\d+)?)',
        '\{word\}' => '(?<word>[A-Za-z]+)', '\{ext\}' => '(?<ext>[A-Za-z0-9]+)',
    ];

    /** @var non-empty-list<string> */
    private array $patterns;

    /** @var non-empty-list<string> */
    private array $regexes;

    /** @throws InvalidArgumentException when a pattern does not say where the original's name and type stand */
    public function __construct(string ...$patterns)
    {
        $patterns = $patterns === [] ? [self::USUAL] : array_values($patterns);
        foreach ($patterns as $pattern) {
            if (substr_count($pattern, '{name}') !== 1 || substr_count($pattern, '{ext}') !== 1) {
                throw new InvalidArgumentException("\"$pattern\" is no pattern of rendition names; write {name} and {ext} once each, such as in ".self::USUAL.'.');
            }
        }
        $this->patterns = $patterns;
        $this->regexes = array_map(static fn (string $p): string => '~^'.strtr(preg_quote($p, '~'), self::PARTS).'$~sD', $patterns);
    }

    /** @return list<string> paths of the originals that a path may be a rendition of, by each pattern that it fits */
    public function originalsOf(string $path): array
    {
        $originals = [];
        foreach ($this->regexes as $regex) {
            if (preg_match($regex, $path, $m) === 1) {
                $originals[] = $m['name'].'.'.$m['ext'];
            }
        }

        return array_values(array_unique($originals));
    }

    /** The name of a rendition of a size, by the first pattern that says one. */
    public function renditionOf(string $original, int $width, int $height): string
    {
        $dot = strrpos($original, '.');
        $name = $dot === false ? $original : substr($original, 0, $dot);
        $extension = $dot === false ? '' : substr($original, $dot + 1);
        $pattern = self::USUAL;
        foreach ($this->patterns as $candidate) {
            if (str_contains($candidate, '{width}') && str_contains($candidate, '{height}')) {
                $pattern = $candidate;
                break;
            }
        }

        return strtr($pattern, ['{name}' => $name, '{width}' => (string) $width, '{height}' => (string) $height, '{ext}' => $extension]);
    }
}
