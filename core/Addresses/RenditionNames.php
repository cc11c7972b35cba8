<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/**
 * How the site names the files that it derives from an original, such as `{name}-{width}x{height}.{ext}`.
 */
final readonly class RenditionNames
{
    private string $regex;

    public function __construct(private string $pattern = '{name}-{width}x{height}.{ext}')
    {
        $this->regex = '~^'.strtr(preg_quote($pattern, '~'), [
            '\{name\}' => '(?<name>.+)', '\{width\}' => '(?<width>\d{1,5})', '\{height\}' => '(?<height>\d{1,5})', '\{ext\}' => '(?<ext>[A-Za-z0-9]+)',
        ]).'$~sD';
    }

    /** @return string|null the original's path, when the path is named like a rendition */
    public function originalOf(string $path): ?string
    {
        return preg_match($this->regex, $path, $m) === 1 ? $m['name'].'.'.$m['ext'] : null;
    }

    public function renditionOf(string $original, int $width, int $height): string
    {
        $dot = strrpos($original, '.');
        $name = $dot === false ? $original : substr($original, 0, $dot);
        $extension = $dot === false ? '' : substr($original, $dot + 1);

        return strtr($this->pattern, ['{name}' => $name, '{width}' => (string) $width, '{height}' => (string) $height, '{ext}' => $extension]);
    }
}
