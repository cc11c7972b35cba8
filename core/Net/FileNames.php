<?php

declare(strict_types=1);

namespace Ylema\Net;

use Ylema\Addresses\Resolver;

/**
 * The names of all files of a site, so that a text of any length is searched for all of them at once.
 *
 * Each name is known by one piece of it, the one that fewest names share: a run of letters and digits, or two
 * neighbouring characters of other scripts. A text is cut into such pieces, and only where one is known is the name
 * around it compared. What is kept is one text for each name and one for each piece, some 200 bytes a file.
 */
final class FileNames
{
    /** Longer names than this no file system keeps. */
    public const LONGEST = 255;

    /** Letters and digits of a piece that is a part of many others, and how many of them are looked for one by one. */
    private const SHORT = 3;

    private const MANY = 16;

    /** Where four blanks are met more often than in so many bytes, a text is mostly blank. */
    private const SPARSE = 32;

    /** What is tried around one piece; names that differ in nothing else share their places. */
    private const PAIR = 4;

    /** @var array<array-key, true> */
    private array $stems = [];

    /** @var array<array-key, string> piece → packed pairs: where it stands in a name, and how long that is */
    private array $pieces = [];

    /** @var array<array-key, true> without the dot */
    private array $endings = [];

    /** @var array<array-key, true> ending in `/` */
    private array $folders = [];

    /** @var array<int, true> 64 bits of each path, which no two of some millions share by chance */
    private array $paths = [];

    /** Whether some name has more than ASCII in it. */
    private bool $isWide = false;

    /** Whether some name is known by characters of other scripts alone. */
    private bool $hasPairs = false;

    private bool $hasBlanks = false;

    /** All bytes that are neither a small letter nor a digit, and as many blanks. */
    private readonly string $between;

    private readonly string $blanks;

    /** @param  iterable<string>  $paths below the site's root */
    public function __construct(iterable $paths)
    {
        foreach ($paths as $path) {
            $this->paths[self::mark($path)] = true;
            $fold = Resolver::fold($path);
            $slash = strrpos($fold, '/');
            $folder = $slash === false ? '' : substr($fold, 0, $slash + 1);
            $name = $slash === false ? $fold : substr($fold, $slash + 1);
            [$stem, $ending] = self::parted($name);
            if ($stem === '' || strlen($stem) > self::LONGEST) {
                continue;
            }
            $this->stems[$stem] = true;
            if ($ending !== '') {
                $this->endings[$ending] = true;
            }
            while ($folder !== '' && ! isset($this->folders[$folder])) {
                $this->folders[$folder] = true;
                $folder = substr($folder, (int) strpos($folder, '/') + 1);
            }
        }
        $this->between = implode('', array_filter(
            array_map(chr(...), range(0, 255)),
            static fn (string $byte): bool => ! ctype_lower($byte) && ! ctype_digit($byte),
        ));
        $this->blanks = str_repeat(' ', strlen($this->between));
        $this->index();
    }

    /** @return array{string, string} a folded name's stem and ending; one that is all ending is a stem */
    public static function parted(string $name): array
    {
        $dot = strrpos($name, '.');

        return $dot === false || $dot === 0 ? [$name, ''] : [substr($name, 0, $dot), substr($name, $dot + 1)];
    }

    /** Whether a file lies at a path, letter for letter. */
    public function has(string $path): bool
    {
        return isset($this->paths[self::mark($path)]);
    }

    public function isEmpty(): bool
    {
        return $this->stems === [];
    }

    /** Whether a text must be folded beyond ASCII before it can hold each of the names. */
    public function isWide(): bool
    {
        return $this->isWide;
    }

    /** Whether files here end so, or files of media do anywhere. */
    public function knowsEnding(string $ending): bool
    {
        return isset($this->endings[$ending]) || Resolver::hasMediaType("a.$ending");
    }

    /** Whether files lie in a folder that is called so from any folder above it. */
    public function knowsFolder(string $folder): bool
    {
        return isset($this->folders[$folder]);
    }

    /**
     * Where names of files stand in a folded text, whatever is around them.
     *
     * @return list<array{int, string}> offset, and the stem as it is known
     */
    public function in(string $text): array
    {
        $found = [];
        // Runs of letters and digits, cut and looked up in a few calls: every text of a site comes by here.
        if (self::SPARSE * substr_count($text, '    ') > strlen($text)) {
            // Where much was read already there are more blanks than runs.
            preg_match_all('~[a-z0-9]++~', $text, $all);
            $runs = $all[0];
        } else {
            $runs = explode(' ', strtr($text, $this->between, $this->blanks));
        }
        $words = array_intersect_key(array_flip($runs), $this->pieces);
        if ($this->hasPairs && preg_match('~[\x80-\xff]~', $text) === 1) {
            foreach (self::pairs($text) as $pair) {
                if (isset($this->pieces[$pair])) {
                    $words[$pair] = 0;
                }
            }
        }
        // Short ones are a part of many others, so where there are some, all of them are looked for at once.
        $short = array_filter(
            $words,
            static fn (int|string $one): bool => strlen((string) $one) <= self::SHORT && ord(((string) $one)[0]) < 0x80,
            ARRAY_FILTER_USE_KEY,
        );
        if (count($short) > self::MANY) {
            preg_match_all('~(?<![a-z0-9])[a-z0-9]{1,'.self::SHORT.'}+(?![a-z0-9])~', $text, $all, PREG_OFFSET_CAPTURE);
            $places = [];
            foreach ($all[0] as [$word, $at]) {
                if (isset($short[$word])) {
                    $places[$word][] = $at;
                }
            }
            foreach ($places as $word => $own) {
                $this->around((string) $word, $own, $text, $found);
            }
            $words = array_diff_key($words, $short);
        }
        foreach ($words as $word => $_) {
            $word = (string) $word;
            $isPlain = ord($word[0]) < 0x80;
            $length = strlen($word);
            $places = [];
            for ($at = strpos($text, $word); $at !== false; $at = strpos($text, $word, $at + 1)) {
                $isWhole = ! $isPlain
                    || (($at === 0 || ! ctype_alnum($text[$at - 1])) && ! ctype_alnum($text[$at + $length] ?? ' '));
                if ($isWhole) {
                    $places[] = $at;
                }
            }
            $this->around($word, $places, $text, $found);
        }

        return $found;
    }

    /**
     * The names that are known by a piece, and stand around it.
     *
     * @param  list<int>  $places of the piece
     * @param  list<array{int, string}>  $found added to
     */
    private function around(string $piece, array $places, string $text, array &$found): void
    {
        /** @var list<int> $pairs */
        $pairs = array_values((array) unpack('v*', $this->pieces[$piece]));
        foreach ($places as $at) {
            for ($i = 0, $n = count($pairs); $i < $n; $i += 2) {
                $start = $at - $pairs[$i];
                $stem = $start < 0 ? '' : substr($text, $start, $pairs[$i + 1]);
                if (isset($this->stems[$stem])) {
                    $found[] = [$start, $stem];
                } elseif ($this->hasBlanks && isset($this->stems[$spaced = strtr($stem, '+', ' ')])) {
                    // A query writes a blank as a plus (URL Standard, 5.1).
                    $found[] = [$start, $spaced];
                }
            }
        }
    }

    private function index(): void
    {
        $counts = [];
        foreach ($this->stems as $stem => $_) {
            foreach (self::piecesOf((string) $stem) as $piece => $_) {
                $counts[$piece] = ($counts[$piece] ?? 0) + 1;
            }
        }
        foreach ($this->stems as $stem => $_) {
            $stem = (string) $stem;
            $this->hasBlanks = $this->hasBlanks || str_contains($stem, ' ');
            $this->isWide = $this->isWide || preg_match('~[\x80-\xff]~', $stem) === 1;
            $best = null;
            $least = PHP_INT_MAX;
            foreach (self::piecesOf($stem) as $piece => $at) {
                // Short pieces are in every text, however few names have them: `and`, `left`.
                $cost = $counts[$piece] * match (strlen((string) $piece)) {
                    1 => 1000,
                    2 => 50,
                    3 => 12,
                    4 => 4,
                    5 => 2,
                    default => 1,
                };
                if ($cost < $least) {
                    [$least, $best] = [$cost, [(string) $piece, $at]];
                }
            }
            if ($best === null) {
                continue;
            }
            $this->hasPairs = $this->hasPairs || ord($best[0][0]) >= 0x80;
            $pair = pack('v2', $best[1], strlen($stem));
            $known = $this->pieces[$best[0]] ?? '';
            if (! self::holds($known, $pair)) {
                $this->pieces[$best[0]] = $known.$pair;
            }
        }
    }

    private static function holds(string $pairs, string $pair): bool
    {
        for ($at = strpos($pairs, $pair); $at !== false; $at = strpos($pairs, $pair, $at + 1)) {
            if ($at % self::PAIR === 0) {
                return true;
            }
        }

        return false;
    }

    private static function mark(string $path): int
    {
        /** @var array{1: int} $mark */
        $mark = unpack('q', hash('xxh64', $path, true));

        return $mark[1];
    }

    /** @return array<array-key, int> piece → its offset in the name */
    private static function piecesOf(string $stem): array
    {
        $pieces = [];
        preg_match_all('~[a-z0-9]++~', $stem, $found, PREG_OFFSET_CAPTURE);
        foreach ($found[0] as [$run, $at]) {
            $pieces[$run] ??= $at;
        }
        foreach (self::pairs($stem) as $at => $pair) {
            $pieces[$pair] ??= $at;
        }

        // Signs alone are a name as well.
        return $pieces === [] ? self::signs($stem) : $pieces;
    }

    /** @return array<string, int> */
    private static function signs(string $stem): array
    {
        return preg_match('~[\x80-\xff]~', $stem, $m, PREG_OFFSET_CAPTURE) === 1 ? [$m[0][0] => $m[0][1]] : [];
    }

    /** @return array<int, string> offset → two neighbouring characters beyond ASCII, or one that stands alone */
    private static function pairs(string $text): array
    {
        if (preg_match_all('~[^\x00-\x7f]++~u', $text, $found, PREG_OFFSET_CAPTURE) < 1) {
            return [];
        }
        $pairs = [];
        foreach ($found[0] as [$run, $at]) {
            $characters = mb_str_split($run);
            foreach ($characters as $n => $character) {
                if (isset($characters[$n + 1])) {
                    $pairs[$at] = $character.$characters[$n + 1];
                } elseif ($n === 0) {
                    $pairs[$at] = $character;
                }
                $at += strlen($character);
            }
        }

        return $pairs;
    }
}
