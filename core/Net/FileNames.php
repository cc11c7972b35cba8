<?php

declare(strict_types=1);

namespace Ylema\Net;

use Ylema\Addresses\Resolver;
use Ylema\Reading\Encoding\Charset;

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

    /** Of more pieces than this the places are looked up in one go. */
    private const MANY = 24;

    /** Characters beyond ASCII: 1 some of three bytes each, 2 some of two, or others. */
    private const WIDE_RUN = '~((?:[\xE0-\xEF][\x80-\xBF]{2}){2,}+(?![\x80-\xFF]))'
        .'|((?:[\xC3-\xDF][\x80-\xBF]){2,}+(?![\x80-\xFF]))|[\x80-\xFF]++~';

    private const RUN = '~[a-z0-9]++~';

    /**
     * A word of letters with no more than the signs of a sentence behind it.
     *
     * @see telling()
     */
    private const PLAIN = '[a-z]++[.,;!?)]{0,2}+';

    /**
     * The same where it can be a name: not the words among the words of a sentence, nor tags that hold nothing, which
     * are most of all texts. What stands behind a colon or an equals sign may be a value.
     */
    private const TELLING_RUN = '~\G(?:[^a-z0-9<]++|</?+[a-z]++[0-9]?+>|<'
        .'|(?<=[^:=]\x20|>)'.self::PLAIN.'(?=[\x20<]))*+\K[a-z0-9]++~';

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

    /** @var list<Charset> */
    private array $charsets = [];

    /** Whether some name is known by characters of other scripts alone. */
    private bool $hasPairs = false;

    private bool $hasBlanks = false;

    /** Whether a name has in it what begins or ends a tag. */
    private bool $hasMarks = false;

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

    /** @return list<Charset> older encodings that can say one of the names; none where ASCII says them all */
    public function charsets(): array
    {
        return $this->charsets;
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
        $runs = $this->hasMarks ? self::RUN : self::TELLING_RUN;
        preg_match_all($runs, $text, $all);
        if (preg_last_error() !== PREG_NO_ERROR) {
            $runs = self::RUN;
            preg_match_all($runs, $text, $all);
        }
        $words = array_intersect_key(array_flip($all[0]), $this->pieces);
        if ($this->hasPairs && preg_match('~[\x80-\xff]~', $text) === 1) {
            $words += array_intersect_key(self::pairsIn($text), $this->pieces);
        }
        if (count($words) > self::MANY) {
            // One look at the whole text for all of them.
            preg_match_all($runs, $text, $all, PREG_OFFSET_CAPTURE);
            $places = [];
            foreach ($all[0] as [$word, $at]) {
                if (isset($words[$word])) {
                    $places[$word][] = $at;
                }
            }
            foreach ($places as $word => $own) {
                $this->around((string) $word, $own, $text, $found);
            }
            $words = array_diff_key($words, $places);
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
        $alphabets = new Alphabets;
        foreach ($this->stems as $stem => $_) {
            $stem = (string) $stem;
            $this->hasBlanks = $this->hasBlanks || str_contains($stem, ' ');
            if (preg_match('~[\x80-\xff]~', $stem) === 1) {
                $this->isWide = true;
                $alphabets->meet($stem);
            }
            $this->hasMarks = $this->hasMarks || strpbrk($stem, '<>') !== false;
            foreach (self::telling($stem) as $pieces) {
                $this->know($stem, $pieces, $counts);
            }
        }
        $this->charsets = $this->isWide ? $alphabets->charsets() : [];
    }

    /**
     * Knows a name by the one of its pieces that fewest names share.
     *
     * @param  array<array-key, int>  $pieces
     * @param  array<array-key, int>  $counts
     */
    private function know(string $stem, array $pieces, array $counts): void
    {
        $best = null;
        $least = PHP_INT_MAX;
        foreach ($pieces as $piece => $at) {
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
            return;
        }
        $this->hasPairs = $this->hasPairs || ord($best[0][0]) >= 0x80;
        $pair = pack('v2', $best[1], strlen($stem));
        $known = $this->pieces[$best[0]] ?? '';
        if (! self::holds($known, $pair)) {
            $this->pieces[$best[0]] = $known.$pair;
        }
    }

    /**
     * The pieces of a name that are no words among words, wherever it stands as a name. One with blanks between its
     * words is known by a word that is more than letters; where all are plain words, by the first or the last: one of
     * them has its folder, its ending or a quote at it.
     *
     * @return list<array<array-key, int>> sets of pieces of which one each is to be known
     */
    private static function telling(string $stem): array
    {
        $pieces = self::piecesOf($stem);
        if (! str_contains($stem, ' ')) {
            return [$pieces];
        }
        $ends = $telling = [];
        foreach ($pieces as $piece => $at) {
            $from = $at === 0 ? 0 : (int) strrpos(" $stem", ' ', $at - strlen($stem));
            $word = substr($stem, $from, strcspn($stem, ' ', $from));
            if (preg_match('~^'.self::PLAIN.'$~D', $word) !== 1) {
                $telling[$piece] = $at;
            }
            $ends[$from] = ($ends[$from] ?? []) + [$piece => $at];
        }

        return match (true) {
            $telling !== [] => [$telling],
            $ends === [] => [],
            default => [$ends[min(array_keys($ends))], $ends[max(array_keys($ends))]],
        };
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

    /**
     * All that pairs() can say of a text, and some pairs more: runs of characters of one length are put together and
     * cut at once.
     *
     * @return array<string, mixed> by the pair
     */
    private static function pairsIn(string $text): array
    {
        if (preg_match('//u', $text) !== 1) {
            return [];
        }
        preg_match_all(self::WIDE_RUN, $text, $found);
        $pairs = [];
        foreach ([1 => 3, 2 => 2] as $group => $length) {
            $together = implode('', $found[$group]);
            if ($together !== '') {
                $pairs += array_flip(str_split($together, 2 * $length));
                $pairs += array_flip(str_split(substr($together, $length), 2 * $length));
            }
        }
        foreach ($found[0] as $i => $run) {
            if ($found[1][$i] === '' && $found[2][$i] === '') {
                $pairs += array_flip(self::pairs($run));
            }
        }

        return $pairs;
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
