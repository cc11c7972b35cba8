<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Breaks;
use Ylema\Reading\Collector;
use Ylema\Reading\Decoding;
use Ylema\Reading\Encoding\CodePoint;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\BareNumber;
use Ylema\Reading\Layers\JsonString;
use Ylema\Reading\Notation;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/** JSON (RFC 8259), walked token by token so that every string keeps its place; never decoded as a whole. */
final readonly class JsonReader implements Reader
{
    /** Group 1 the inside of a string, 2 a number, 3 a mark, 4 a word. */
    private const TOKENS = '~[\x20\t\r\n]*+(?:"([^"\\\\\x00-\x1F]*+(?:\\\\.[^"\\\\\x00-\x1F]*+)*+)"|(-?\d[\d.eE+-]*+)|([\[\]{},])|(true|false|null))~AS';

    private const COLON = '~[\x20\t\r\n]*+:~A';

    private const ESCAPES = ['b' => "\x08", 'f' => "\f", 'n' => "\n", 'r' => "\r", 't' => "\t"];

    private const MAX_DEPTH = 512;

    private StructuredValues $values;

    public function __construct()
    {
        $this->values = new StructuredValues;
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        $slashes = str_contains($text, '\/');
        // A document that writes \u00e9 for é goes on doing so; pure ASCII may be either, and raw is shorter.
        $ascii = preg_match('~\\\\u(?!00[0-7])[0-9a-f]{4}~i', $text) === 1;
        $layer = new JsonString($slashes, $ascii);
        $number = new BareNumber(Notation::Json);
        /** @var list<array{string, bool, int, array<string, true>}> $stack path, whether a list, position, names */
        $stack = [];
        $path = $slice->path ?? '';
        $list = false;
        $position = 0;
        $key = null;
        /** @var array<string, true> $names of the object that are addresses */
        $names = [];
        // A parser may ignore a byte order mark (RFC 8259, 8.1).
        $at = str_starts_with($text, "\xEF\xBB\xBF") ? 3 : 0;
        while (($m = self::token($text, $at)) !== []) {
            $at += strlen($m[0]);
            if (! isset($m[2])) {
                $raw = $m[1];
                // The field may be one long string, and its copies add up.
                $m = [];
                if ($stack !== [] && ! $list && $key === null) {
                    $key = str_contains($raw, '\\') ? self::decode($raw)[0] : $raw;
                    // Only a colon may follow a key.
                    if (preg_match(self::COLON, $text, $m, 0, $at) !== 1) {
                        break;
                    }
                    if (StructuredValues::couldMatter($raw, $rules)) {
                        $this->key($slice, $raw, $at, $layer, $path, $names, $found, $rules, $others);
                    }
                    $at += strlen($m[0]);

                    continue;
                }
                if (StructuredValues::couldMatter($raw, $rules)) {
                    $start = $at - 1 - strlen($raw);
                    [$decoded, $breaks] = str_contains($raw, '\\') ? self::decode($raw, $start) : [$raw, null];
                    $raw = '';
                    $this->values->read(
                        $slice->inner($decoded, $start, $breaks, $layer, self::join($path, $list, $position, $key)),
                        $found, $rules, $others,
                    );
                }
                $key = null;
            } elseif (! isset($m[3])) {
                if ($rules->paths !== []) {
                    $this->values->number(
                        $slice->inner(
                            $m[2], $at - strlen($m[2]), null, $number, self::join($path, $list, $position, $key),
                        ),
                        $found, $rules, $others,
                    );
                }
                $key = null;
            } elseif (isset($m[4])) {
                $key = null;
            } elseif ($m[3] === '{' || $m[3] === '[') {
                if (count($stack) >= self::MAX_DEPTH) {
                    $found->problem(
                        $slice->outer($at - 1),
                        'The json is nested deeper than '.self::MAX_DEPTH.' levels; the rest was not read.',
                    );

                    return;
                }
                $stack[] = [$path, $list, $position, $names];
                $names = [];
                $path = self::join($path, $list, $position, $key, count($stack) === 1);
                $list = $m[3] === '[';
                $position = 0;
                $key = null;
            } elseif ($m[3] === ',') {
                $position++;
                $key = null;
            } else {
                if ($stack === [] || $list !== ($m[3] === ']')) {
                    $found->problem(
                        $slice->outer($at - 1),
                        "The json has a \"{$m[3]}\" that closes nothing; what follows was not read.",
                    );

                    return;
                }
                [$path, $list, $position, $names] = array_pop($stack);
                $key = null;
            }
            if ($stack === []) {
                $at += strspn($text, " \t\r\n", $at);
                if ($at >= strlen($text)) {
                    return;
                }

                break;
            }
        }
        if (! $found->gaveUp($slice, min($at, strlen($text))) && trim($text) !== '') {
            $found->problem(
                $slice->outer(min($at, strlen($text))),
                'The json is damaged or cut off here; what follows was not read.',
            );
        }
    }

    /**
     * @param  int  $behind offset behind the closing quote
     * @param  array<string, true>  $names
     */
    private function key(
        Slice $slice, string $raw, int $behind, JsonString $layer, string $path, array &$names, Collector $found,
        Rules $rules, FieldReader $others,
    ): void {
        $start = $behind - 1 - strlen($raw);
        [$decoded, $breaks] = str_contains($raw, '\\') ? self::decode($raw, $start) : [$raw, null];
        $this->values->key($slice->inner($decoded, $start, $breaks, $layer, $path), $names, $found, $rules, $others);
    }

    /**
     * @return array<int, string> see TOKENS; empty where none begins
     */
    private static function token(string $text, int $at): array
    {
        if (preg_match(self::TOKENS, $text, $m, 0, $at) === 1) {
            return $m;
        }
        $start = $at + strspn($text, " \t\r\n", $at);
        if (preg_last_error() === PREG_NO_ERROR || ($text[$start] ?? '') !== '"') {
            return [];
        }
        // A string with more escapes than PCRE takes in one match.
        for ($end = $start + 1; $end < strlen($text); $end += 2) {
            $end += strcspn($text, '"\\', $end);
            if (($text[$end] ?? '') === '"') {
                return [substr($text, $at, $end + 1 - $at), substr($text, $start + 1, $end - $start - 1)];
            }
        }

        return [];
    }

    private static function join(string $path, bool $list, int $position, ?string $key, bool $root = false): string
    {
        if ($root) {
            return $path;
        }
        if ($list) {
            return $path.'['.$position.']';
        }
        if ($key === null) {
            return $path;
        }

        return $path === '' ? $key : $path.'.'.$key;
    }

    /**
     * Decodes the inside of a json string and remembers where the offsets part.
     *
     * @return array{string, Breaks|null}
     */
    private static function decode(string $raw, int $start = 0): array
    {
        $decoding = new Decoding($raw, $start);
        for ($at = strpos($raw, '\\'); $at !== false; $at = strpos($raw, '\\', $at)) {
            $letter = $raw[$at + 1];
            $length = 2;
            if (
                ($letter === 'u' || $letter === 'U')
                    && preg_match('~\\\\u(?:(d[89ab][0-9a-f]{2})\\\\u(d[c-f][0-9a-f]{2})|([0-9a-f]{4}))~iA', $raw, $m, 0, $at) === 1
            ) {
                $length = strlen($m[0]);
                $character = isset($m[3])
                    ? CodePoint::character((int) hexdec($m[3]))
                    : CodePoint::ofSurrogates((int) hexdec($m[1]), (int) hexdec($m[2]));
            } else {
                $character = self::ESCAPES[$letter] ?? $letter;
            }
            $decoding->replace($at, $length, $character);
            $at += $length;
        }

        return $decoding->done();
    }
}
