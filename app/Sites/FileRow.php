<?php

declare(strict_types=1);

namespace App\Sites;

use Symfony\Component\Yaml\Exception\ParseException;
use Symfony\Component\Yaml\Yaml;

/** A file as a row: what a field map can say of it, by the names of columns. */
final class FileRow
{
    /** The one field that is read and written: the text of the file. */
    public const TEXT = 'text';

    /** @return array<string, string|null> path, folder, name, stem, ending, address, title, text, and `front.key` */
    public static function of(string $path, string $text): array
    {
        $name = basename($path);
        $folder = $name === $path ? '' : substr($path, 0, -strlen($name));
        $ending = pathinfo($name, PATHINFO_EXTENSION);
        $stem = $ending === '' ? $name : substr($name, 0, -strlen($ending) - 1);
        $front = self::front($text);
        $row = [
            'path' => $path,
            'folder' => rtrim($folder, '/'),
            'name' => $name,
            'stem' => $stem,
            'ending' => $ending,
            // A server gives out the index of a folder as the folder (every common one does so).
            'address' => preg_match('~^index\.(?:html?|php|md|markdown)$~i', $name) === 1 ? $folder : $path,
            'title' => self::title($text, $front) ?? $path,
            self::TEXT => $text,
        ];
        foreach ($front as $key => $value) {
            $row["front.$key"] = $value;
        }

        return $row;
    }

    /** @return array<string, string|null> what stands between two lines of `---` at the beginning */
    private static function front(string $text): array
    {
        if (
            preg_match(
                '~\A(?:\xEF\xBB\xBF)?---[ \t]*\r?\n(.*?)\r?\n---[ \t]*(?:\r?\n|\z)~s',
                substr($text, 0, 65536),
                $found,
            ) !== 1
        ) {
            return [];
        }
        try {
            $said = Yaml::parse($found[1], Yaml::PARSE_DATETIME);
        } catch (ParseException) {
            return [];
        }
        $front = [];
        foreach (is_array($said) ? $said : [] as $key => $value) {
            $front[(string) $key] = match (true) {
                $value instanceof \DateTimeInterface => $value->format('Y-m-d H:i:s'),
                is_bool($value) => $value ? 'true' : 'false',
                is_scalar($value) => (string) $value,
                default => null,
            };
        }

        return $front;
    }

    /** @param  array<string, string|null>  $front */
    private static function title(string $text, array $front): ?string
    {
        if (($front['title'] ?? '') !== '') {
            return $front['title'] ?? null;
        }
        $head = substr($text, 0, 65536);
        foreach (['~<title[^>]*>(.*?)</title>~is', '~<h1[^>]*>(.*?)</h1>~is', '~^#[ \t]+(.+)$~m'] as $pattern) {
            if (preg_match($pattern, $head, $found) === 1) {
                $words = trim(
                    preg_replace('~\s+~', ' ', html_entity_decode(strip_tags($found[1]), ENT_QUOTES | ENT_HTML5)) ?? '',
                );
                if ($words !== '') {
                    return mb_strcut(mb_scrub($words), 0, 300);
                }
            }
        }

        return null;
    }
}
