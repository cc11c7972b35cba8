<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/**
 * How the site names the files that it derives from an original: one pattern or several, such as
 * `{name}.w{width}.{ext}`, `{name}@{scale}x.{ext}`, `{name}-{word}.{ext}`, `{name}.{ext}.webp`, or, where they lie in a
 * folder beside the originals or their names begin otherwise, `{folder}/thumbs/{name}.{ext}` and
 * `{folder}/tn_{name}.{ext}`. A site that says none has no such names: core knows no name by itself.
 */
final readonly class RenditionNames
{
    private const PARTS = [
        '\{folder\}/' => '(?:(?<folder>.+)/)?',
        '\{name\}' => '(?<name>.+)',
        '\{width\}' => '(?<width>\d{1,5})',
        '\{height\}' => '(?<height>\d{1,5})',
        '\{scale\}' => '(?<scale>\d(?:\.\d+)?)',
        '\{word\}' => '(?<word>[A-Za-z]+)',
        '\{ext\}' => '(?<ext>[A-Za-z0-9]+)',
    ];

    /** @var list<string> */
    private array $patterns;

    /** @var list<string> */
    private array $regexes;

    /** @throws InvalidPattern when a pattern does not say where the original's name and type stand */
    public function __construct(string ...$patterns)
    {
        $patterns = array_values($patterns);
        foreach ($patterns as $pattern) {
            if (substr_count($pattern, '{name}') !== 1 || substr_count($pattern, '{ext}') !== 1) {
                throw new InvalidPattern(
                    $pattern,
                    'pattern of rendition names; write {name} and {ext} once each, such as in {name}.w{width}.{ext}.',
                );
            }
        }
        $this->patterns = $patterns;
        $this->regexes = array_map(
            static fn (string $p): string => '~^'
                .strtr(preg_quote($p, '~'), [
                    ...self::PARTS,
                    // Where the folder is said by itself, a name is what stands behind it.
                    ...str_contains($p, '{folder}') ? ['\{name\}' => '(?<name>[^/]+)'] : [],
                ])
                .'$~sD',
            $patterns,
        );
    }

    /** @return list<string> paths of the originals that a path may be a rendition of, by each pattern that it fits */
    public function originalsOf(string $path): array
    {
        $originals = [];
        foreach ($this->regexes as $regex) {
            if (preg_match($regex, $path, $m) === 1) {
                $folder = $m['folder'] ?? '';
                $originals[] = ($folder === '' ? '' : "$folder/").$m['name'].'.'.$m['ext'];
            }
        }

        return array_values(array_unique($originals));
    }

    /**
     * The size that the name of a rendition says.
     *
     * @return array{int|null, int|null}|null width and height, one of which may not be said; null where neither is
     */
    public function sizeIn(string $path): ?array
    {
        foreach ($this->regexes as $regex) {
            if (preg_match($regex, $path, $m) === 1 && (isset($m['width']) || isset($m['height']))) {
                return [isset($m['width']) ? (int) $m['width'] : null, isset($m['height']) ? (int) $m['height'] : null];
            }
        }

        return null;
    }

    /** @return string|null the pattern that a path fits; null where its name says nothing */
    public function patternOf(string $path): ?string
    {
        foreach ($this->regexes as $i => $regex) {
            if (preg_match($regex, $path) === 1) {
                return $this->patterns[$i];
            }
        }

        return null;
    }

    /**
     * @return string|null the name of a rendition of a size, by the first pattern that says a size; null where none
     *       does
     */
    public function renditionOf(string $original, int $width, int $height): ?string
    {
        foreach ($this->patterns as $pattern) {
            if (
                preg_match('~\{(?:width|height)\}~', $pattern) === 1
                && preg_match('~\{(?:word|scale)\}~', $pattern) !== 1
            ) {
                $dot = strrpos($original, '.');
                $name = $dot === false ? $original : substr($original, 0, $dot);
                $extension = $dot === false ? '' : substr($original, $dot + 1);

                $slash = strrpos($name, '/');
                $hasFolder = str_contains($pattern, '{folder}/');

                return strtr($pattern, [
                    '{folder}/' => $slash === false ? '' : substr($name, 0, $slash + 1),
                    '{name}' => $hasFolder && $slash !== false ? substr($name, $slash + 1) : $name,
                    '{width}' => (string) $width,
                    '{height}' => (string) $height,
                    '{ext}' => $extension,
                ]);
            }
        }

        return null;
    }
}
