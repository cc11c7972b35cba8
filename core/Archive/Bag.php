<?php

declare(strict_types=1);

namespace Ylema\Archive;

/**
 * The BagIt File Packaging Format V1.0 (RFC 8493): what its files are called and how their lines are written.
 *
 * A bag is `bagit.txt`, a payload below `data/`, manifests that name each file of it with its hash, and tag files with
 * manifests of their own.
 */
final class Bag
{
    /** The declaration (2.1.1), which has no byte order mark and ends each line. */
    public const DECLARATION = "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n";

    /** Algorithms as file names spell them (2.4): lower case, without punctuation. */
    public const ALGORITHMS = ['sha256', 'sha512'];

    public static function manifest(string $algorithm): string
    {
        return "manifest-$algorithm.txt";
    }

    public static function tagManifest(string $algorithm): string
    {
        return "tagmanifest-$algorithm.txt";
    }

    /**
     * A line of a manifest (2.1.3): hash, blanks, path from the bag's own folder. Two blanks are what `sha256sum -c`
     * reads as well. Line ends and percent signs in a path are percent-encoded, and nothing else.
     */
    public static function line(string $hash, string $path): string
    {
        return "$hash  ".strtr($path, ['%' => '%25', "\n" => '%0A', "\r" => '%0D'])."\n";
    }

    /** @return array{string, string}|null hash and path of a line; null for what is none */
    public static function read(string $line): ?array
    {
        if (preg_match('~^([0-9a-fA-F]+)[ \t]+\*?(.+)$~s', rtrim($line, "\r\n"), $m) !== 1) {
            return null;
        }

        return [
            strtolower($m[1]),
            (string) preg_replace_callback(
                '~%(0A|0D|25)~i',
                static fn (array $p): string => chr((int) hexdec($p[1])),
                $m[2],
            ),
        ];
    }

    /**
     * Where a file of the site goes in the payload. Characters that manifests must encode, and those that tools which
     * check them read otherwise, are written as `_` and their number; so is a `_` that would read as one of these, and
     * no two files come to one name. The tag files say what the path was.
     *
     * @param  int  $turn how many files of this path are in the bag before it
     */
    public static function payload(string $path, int $turn = 0): string
    {
        $plain =
            preg_replace_callback(
                '~[%\\\\\x00-\x1F\x7F:*?"<>|]|_(?=[0-9A-F]{2})~',
                static fn (array $m): string => sprintf('_%02X', ord($m[0])),
                $path,
            ) ?? '';
        $parts = array_map(
            static fn (string $part): string => match (true) {
                $part === '' => '_2F',
                // Nothing may lead out of the bag, or be taken for an option.
                preg_match('~^(?:\.{1,2}$|-)~D', $part) === 1 => "_$part",
                // What is called so by itself.
                preg_match('~^_(?:\.{1,2}$|-|again-\d)~D', $part) === 1 => '_5F'.substr($part, 1),
                default => $part,
            },
            explode('/', $plain),
        );

        return 'data/'.($turn === 0 ? '' : "_again-$turn/").implode('/', $parts);
    }

    /**
     * `bag-info.txt` (2.2.2).
     *
     * @param  array<string, string>  $labels
     */
    public static function info(array $labels): string
    {
        $text = '';
        foreach ($labels as $label => $value) {
            $text .= "$label: ".trim(preg_replace('~\s+~', ' ', $value) ?? '')."\n";
        }

        return $text;
    }
}
