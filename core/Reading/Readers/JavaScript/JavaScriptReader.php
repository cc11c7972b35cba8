<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Breaks;
use Ylema\Reading\Collector;
use Ylema\Reading\Decoding;
use Ylema\Reading\Encoding\CodePoint;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\JavaScriptString;
use Ylema\Reading\Notation;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * Script: its string literals, and templates without substitutions (ECMA-262, 12.9.4 and 12.9.6), read only
 * where they plainly hold an address of the site's or markup. What a script puts together at run time is
 * beyond any reader.
 */
final readonly class JavaScriptReader implements Reader
{
    /**
     * Groups 1 and 2 the inside of a string, 3 a mark that matters where templates are. Comments and regular
     * expressions are skipped, up to the line's or the text's end where they have none; `<!--` begins a comment of one
     * line (B.1.1), and a regular expression, which may hold quotes, can stand only where a value can begin.
     */
    private const TOKENS = '~(?://|<!--)[^\n]*+|/\*(?:[^*]++|\*(?!/))*+(?:\*/|\z)'
        .'|(?<=[=(,:;!&|?{}\[\n]|return|typeof)\s*+/(?![*/])'
        .'(?:[^/\\\\\[\n]++|\\\\.|\[(?:[^\]\\\\\n]++|\\\\.)*+(?:\]|(?=\n)|\z))++(?:/|(?=\n)|\z)'
        .'|"([^"\\\\\n]*+(?:\\\\(?s:.)[^"\\\\\n]*+)*+)(?:"|(?=\n)|\\\\?\z)'
        .'|\'([^\'\\\\\n]*+(?:\\\\(?s:.)[^\'\\\\\n]*+)*+)(?:\'|(?=\n)|\\\\?\z)|([`{}])~S';

    /** A template's characters up to its end or to the next substitution. */
    private const TEMPLATE = '~\G((?:[^`\\\\$]++|\\\\(?s:.)|\$(?!\{))*+)(`|\$\{|\z)~S';

    /**
     * What a letter, a digit or a line break stands for behind a backslash (12.9.4, SingleEscapeCharacter and
     * LineContinuation).
     */
    private const ESCAPES = [
        'n' => "\n", 't' => "\t", 'r' => "\r", 'b' => "\x08", 'f' => "\f", 'v' => "\x0B", '0' => "\0", "\n" => '',
        "\r\n" => '', "\r" => '',
    ];

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        $slashes = str_contains($text, '\/');
        $at = 0;
        /** @var list<int> $braces for each substitution that is open, how many braces are open in it */
        $braces = [];
        $found->enterCondition();
        while (preg_match(self::TOKENS, $text, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $at = $m[0][1] + max(1, strlen($m[0][0]));
            if (! isset($m[1])) {
                continue;
            }
            if (! isset($m[3])) {
                [[$raw, $start], $quote] = isset($m[2]) ? [$m[2], "'"] : [$m[1], '"'];
                // A string that its line ends is an error, and none.
                if ($m[0][0][-1] === $quote) {
                    self::isJoined($text, $at) && self::beginsAddress($raw, $rules)
                        ? self::puzzle($slice, $start, $found)
                        : $this->literal($slice, $raw, $start, $quote, $slashes, $found, $rules, $others);
                }

                continue;
            }
            $inside = count($braces) - 1;
            if ($m[3][0] === '{') {
                $inside >= 0 && $braces[$inside]++;
            } elseif ($m[3][0] === '`' || ($inside >= 0 && $braces[$inside]-- === 0)) {
                $opens = $m[3][0] === '`';
                preg_match(self::TEMPLATE, $text, $m, 0, $at);
                if ($opens && ($m[2] ?? '') === '`') {
                    $this->literal($slice, $m[1], $at, '`', $slashes, $found, $rules, $others);
                } elseif ($opens && ($m[2] ?? '') === '${' && self::beginsAddress($m[1], $rules)) {
                    self::puzzle($slice, $at, $found);
                } elseif (! $opens) {
                    array_pop($braces);
                }
                if (($m[2] ?? '') === '${') {
                    $braces[] = 0;
                }
                $at += strlen($m[0] ?? '');
            }
        }
        $found->gaveUp($slice, $at);
        $found->leaveCondition();
    }

    /** Whether something is put behind a string that ends here. */
    private static function isJoined(string $text, int $at): bool
    {
        return preg_match('~\G\s*+\+(?![+=])~', $text, $m, 0, $at) === 1;
    }

    /** Whether a string is the beginning of an address, and no whole one that something is only put behind. */
    private static function beginsAddress(string $raw, Rules $rules): bool
    {
        if (preg_match('~\.[a-z0-9]{2,5}$~Di', $raw) === 1) {
            return false;
        }
        foreach ($rules->mediaFolders as $folder) {
            if (str_starts_with(str_replace('\/', '/', $raw), $folder)) {
                return true;
            }
        }

        return false;
    }

    private static function puzzle(Slice $slice, int $at, Collector $found): void
    {
        $found->problem(
            $slice->outer($at),
            'A script puts together an address in a media folder here; which files it means cannot be read.',
        );
    }

    private function literal(
        Slice $slice, string $raw, int $start, string $quote, bool $slashes, Collector $found, Rules $rules,
        FieldReader $others,
    ): void {
        if (strlen($raw) < 4 || strpbrk($raw, '/<\\') === false) {
            return;
        }
        [$value, $breaks] = self::decode($raw, $start);
        $notation = match (true) {
            $rules->looksLikeAddress($value) => Addresses::notation($value) ?? Notation::Url,
            preg_match('~<[a-z]+[\s>]~i', $value) === 1 => Notation::Html,
            default => null,
        };
        if ($notation !== null) {
            $others->into(
                $slice->inner($value, $start, $breaks, new JavaScriptString($quote, $slashes)), $notation, $found,
                $rules->with(role: $notation === Notation::Html ? $rules->role : 'script', target: null),
            );
        }
    }

    /** @return array{string, Breaks|null} */
    private static function decode(string $raw, int $start): array
    {
        $decoding = new Decoding($raw, $start);
        for ($at = strpos($raw, '\\'); $at !== false; $at = strpos($raw, '\\', $at)) {
            preg_match(
                '~\G\\\\(?:u(d[89ab][0-9a-f]{2})\\\\u(d[c-f][0-9a-f]{2})|u([0-9a-f]{4})|u\{([0-9a-f]{1,6})\}'
                    .'|x([0-9a-f]{2})|(\r\n|.)|)~isS',
                $raw, $m, PREG_UNMATCHED_AS_NULL, $at,
            );
            $length = strlen($m[0] ?? '\\');
            $hex = $m[3] ?? $m[4] ?? $m[5] ?? null;
            $decoding->replace($at, $length, match (true) {
                isset($m[1], $m[2]) => CodePoint::ofSurrogates((int) hexdec($m[1]), (int) hexdec($m[2])),
                $hex !== null => CodePoint::character((int) hexdec($hex)),
                default => self::ESCAPES[(string) ($m[6] ?? '')] ?? (string) ($m[6] ?? ''),
            });
            $at += $length;
        }

        return $decoding->done();
    }
}
