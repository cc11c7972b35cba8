<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Yaml;

use Ylema\Reading\Breaks;
use Ylema\Reading\Collector;
use Ylema\Reading\Decoding;
use Ylema\Reading\Encoding\CodePoint;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\YamlScalar;
use Ylema\Reading\Notation;
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Readers\StructuredValues;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * YAML, read scalar by scalar (YAML 1.2.2): block and flow collections, plain and quoted scalars of one line, and the
 * lines of block scalars. Anchors, tags and comments are skipped; nothing is resolved.
 *
 * @internal
 */
final readonly class YamlValues
{
    /** Indentation, list marks and a key; the rest of the line is the value (8.2). */
    private const LINE = '~^([ \t]*)((?:-[ \t]+)*)(?:("(?:[^"\\\\\n]++|\\\\.)*+"|\'(?:[^\'\n]++|\'\')*+\'|[^\s"\'#&*!|>%@`\[\]{},:-][^\n#:]*?|[^\s"\'#\[\]{},]+?)[ \t]*:(?=[ \t\n]|$)[ \t]*)?((?:&\S+[ \t]+|![^\s]*[ \t]+)*)([^\n]*)$~mS';

    /**
     * In a flow collection (7.4): 1 in double quotes, 2 in single ones, 3 plain, 4 a mark; a key is what a colon
     * follows.
     */
    private const FLOW = '~[ \t\n]*+(?:#[^\n]*+\n)?(?:"((?:[^"\\\\]++|\\\\.)*+)"|\'((?:[^\']++|\'\')*+)\'|((?!:[ '
        .'\t\n,\[\]{}])[^\s,\[\]{}#&*!|>%@`"\'](?:[^,\[\]{}\n#:]++|:(?![ \t\n,\[\]{}])|(?<![ \t])#)*)|([\[\]{},:]))~AsS';

    private const ESCAPES = [
        'n' => "\n", 't' => "\t", 'r' => "\r", '0' => "\0", 'e' => "\x1B", 'a' => "\x07", 'b' => "\x08", 'f' => "\f",
        'v' => "\x0B",
    ];

    public function __construct(private StructuredValues $values)
    {
    }

    /** @param  int  $start where the YAML begins in the slice */
    public function read(
        Slice $slice, string $yaml, int $start, Collector $found, Rules $rules, FieldReader $others,
    ): void {
        $at = 0;
        /** @var list<array{int, string, bool}> $in what the line stands in: indentation, path, whether an entry */
        $in = [];
        /** @var array<string, int> $entries path of a list → how many entries it has up to here */
        $entries = [];
        while ($at < strlen($yaml) && preg_match(self::LINE, $yaml, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $at = $m[0][1] + strlen($m[0][0]) + 1;
            if (trim($m[0][0]) === '') {
                continue;
            }
            $key = self::path($m, $in, $entries);
            [$value, $offset] = $m[5];
            $first = $value[0] ?? '';
            if ($first === '[' || $first === '{') {
                $at = max($at, $this->flow($slice, $yaml, $offset, $start, $key, $found, $rules, $others));
            } elseif ($first === '|' || $first === '>') {
                $at = $this->block(
                    $slice, $yaml, $at, strlen($m[1][0]) + strlen($m[2][0]), $start, $key, $found, $rules, $others,
                );
            } else {
                $this->scalar($slice, $value, $start + $offset, $key, $found, $rules, $others);
            }
        }
        PatternGaveUp::check();
    }

    /**
     * Where a value stands: `hero.picture`, `gallery[2].file`.
     *
     * @param  array<int|string, array{string, int}>  $m see LINE
     * @param  list<array{int, string, bool}>  $in
     * @param  array<string, int>  $entries
     */
    private static function path(array $m, array &$in, array &$entries): string
    {
        $indent = strlen($m[1][0] ?? '');
        $marks = substr_count($m[2][0] ?? '', '-');
        // An entry may stand below the key of its list, as far in as the key (8.2.1).
        while ($in !== [] && (end($in)[0] > $indent || (end($in)[0] === $indent && ($marks === 0 || end($in)[2])))) {
            array_pop($in);
        }
        $path = $in === [] ? '' : end($in)[1];
        for ($n = 0; $n < $marks; $n++) {
            $entry = $entries[$path] ?? 0;
            $entries[$path] = $entry + 1;
            $path .= "[$entry]";
            $in[] = [$indent + $n, $path, true];
        }
        $key = trim($m[3][0] ?? '', " \t\"'");
        if ($key !== '') {
            $path = $path === '' ? $key : "$path.$key";
            $in[] = [$indent + strlen($m[2][0] ?? ''), $path, false];
        }

        return $path;
    }

    private function scalar(
        Slice $slice, string $text, int $offset, string $key, Collector $found, Rules $rules, FieldReader $others,
    ): void {
        if (preg_match('~^(?:"((?:[^"\\\\]++|\\\\.)*+)"|\'((?:[^\']++|\'\')*+)\'|([^\s"\'#&*!|>%@`].*?))[ '
            .'\t]*(?:(?:^|[ \t])\#.*)?\r?$~sS', $text, $m, PREG_OFFSET_CAPTURE) === 1) {
            [$raw, $at, $quote] = self::spelt($m);
            $this->value($slice, $raw, $offset + $at, $quote, $key, $found, $rules, $others);
        }
        PatternGaveUp::check();
    }

    /** @return int behind the collection */
    private function flow(
        Slice $slice, string $yaml, int $at, int $start, string $key, Collector $found, Rules $rules,
        FieldReader $others,
    ): int {
        $depth = 0;
        $outer = $key;
        /** @var array{string, int, string}|null $last a scalar of which it is not yet known whether it is a key */
        $last = null;
        do {
            if (preg_match(self::FLOW, $yaml, $m, PREG_OFFSET_CAPTURE, $at) !== 1) {
                PatternGaveUp::check();
                break;
            }
            $at += strlen($m[0][0]);
            if (! isset($m[4])) {
                $last = self::spelt($m);

                continue;
            }
            if ($last !== null && $m[4][0] === ':') {
                $key = $outer === '' ? $last[0] : "$outer.$last[0]";
            } elseif ($last !== null) {
                $this->value($slice, $last[0], $start + $last[1], $last[2], $key, $found, $rules, $others);
            }
            $last = null;
            $depth += match ($m[4][0]) {
                '[', '{' => 1,
                ']', '}' => -1,
                default => 0,
            };
        } while ($depth > 0);

        return $at;
    }

    /** @return int behind the lines that are indented further than the key */
    private function block(
        Slice $slice, string $yaml, int $at, int $indent, int $start, string $key, Collector $found, Rules $rules,
        FieldReader $others,
    ): int {
        preg_match('~(?:[ \t]{'.($indent + 1).',}[^\n]*(?:\n|\z)|[ \t]*\r?\n)*+~A', $yaml, $m, 0, $at);
        PatternGaveUp::check();
        $text = $m[0] ?? '';
        if (trim($text) !== '') {
            [$value, $breaks] = self::dedented($text, $start + $at);
            $inner = $slice->inner($value, $start + $at, $breaks, new YamlScalar('|'), self::ruled($key, $rules));
            $lines = preg_split('~\n+~', trim($value)) ?: [];
            $areAddresses = array_filter($lines, $rules->looksLikeAddress(...)) === $lines;
            if ($rules->pathRule($inner->path ?? '') === null && ($areAddresses || str_contains($value, ']('))) {
                // Lines that are nothing but addresses, or words with links and images in them.
                $others->into($inner, $areAddresses ? Notation::Addresses : Notation::Markdown, $found, $rules);
            } else {
                $this->values->read($inner, $found, $rules, $others);
            }
        }

        return $at + strlen($text);
    }

    /**
     * The lines of a block without the blanks that all of them begin with (YAML 1.2.2, 8.1.1.1).
     *
     * @return array{string, Breaks|null}
     */
    private static function dedented(string $raw, int $start): array
    {
        preg_match_all('~^[ \t]*(?=[^\s])~m', $raw, $indents);
        $indent = min([PHP_INT_MAX, ...array_map(strlen(...), $indents[0])]);
        $decoding = new Decoding($raw, $start);
        preg_match_all('~^[ \t]++~m', $raw, $m, PREG_OFFSET_CAPTURE);
        PatternGaveUp::check();
        foreach ($m[0] as [$blanks, $at]) {
            $decoding->replace($at, min($indent, strlen($blanks)), '');
        }

        return $decoding->done();
    }

    /**
     * @param  array<int|string, array{string, int}>  $m groups 1 in double quotes, 2 in single ones, 3 plain
     * @return array{string, int, string} what stands there, where, and the quote
     */
    private static function spelt(array $m): array
    {
        [$group, $quote] = match (true) {
            isset($m[3]) => [3, ''],
            isset($m[2]) => [2, "'"],
            default => [1, '"'],
        };
        [$raw, $at] = $m[$group] ?? ['', 0];

        return [$quote === '' ? rtrim($raw, " \t") : $raw, $at, $quote];
    }

    /** A rule may name the last key alone, wherever it stands. */
    private static function ruled(string $path, Rules $rules): ?string
    {
        $last = substr($path, (int) strrpos(".$path", '.'));

        return match (true) {
            $path === '' => null,
            $rules->pathRule($path) === null && $rules->pathRule($last) !== null => $last,
            default => $path,
        };
    }

    private function value(
        Slice $slice, string $raw, int $offset, string $quote, string $key, Collector $found, Rules $rules,
        FieldReader $others,
    ): void {
        if ($raw !== '') {
            [$text, $breaks] = self::decode($raw, $offset, $quote);
            $this->values->read(
                $slice->inner($text, $offset, $breaks, new YamlScalar($quote), self::ruled($key, $rules)), $found,
                $rules, $others,
            );
        }
    }

    /** @return array{string, Breaks|null} */
    private static function decode(string $raw, int $start, string $quote): array
    {
        $decoding = new Decoding($raw, $start);
        if ($quote === "'") {
            for ($at = strpos($raw, "''"); $at !== false; $at = strpos($raw, "''", $at + 2)) {
                $decoding->replace($at, 2, "'");
            }
        } elseif ($quote === '"') {
            for ($at = strpos($raw, '\\'); $at !== false; $at = strpos($raw, '\\', $at)) {
                // 5.7: named escapes, and code points in two, four or eight hexadecimal digits.
                preg_match(
                    '~\\\\(?:x([0-9a-fA-F]{2})|u([0-9a-fA-F]{4})|U([0-9a-fA-F]{8})|.|$)~s', substr($raw, $at, 10), $m,
                );
                $whole = $m[0] ?? '\\';
                $hex = ($m[1] ?? '').($m[2] ?? '').($m[3] ?? '');
                $decoding->replace(
                    $at, strlen($whole),
                    $hex !== ''
                        ? CodePoint::character((int) hexdec($hex))
                        : (self::ESCAPES[$whole[1] ?? ''] ?? ($whole[1] ?? '')),
                );
                $at += strlen($whole);
            }
        }

        return $decoding->done();
    }
}
