<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
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
    private const TOKENS = '~[\x20\t\r\n]*+(?:"((?:[^"\\\\\x00-\x1F]++|\\\\.)*+)"|(-?\d[\d.eE+-]*+)|([\[\]{},:])|(true|false|null)|(\S))~AS';

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
        /** @var list<array{string, bool, int}> $stack [path of the container, is a list, position] */
        $stack = [];
        $path = $slice->path ?? '';
        $list = false;
        $position = 0;
        $key = null;
        $at = 0;
        while (preg_match(self::TOKENS, $text, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL, $at) === 1) {
            $at = $m[0][1] + strlen((string) $m[0][0]);
            if (isset($m[1][0])) {
                [$raw, $start] = $m[1];
                if ($stack !== [] && ! $list && $key === null) {
                    $key = self::decode($raw)[0];
                    // Only a colon may follow a key; anything else is reported when it comes.
                    if (preg_match('~[\x20\t\r\n]*+:~A', $text, $colon, 0, $at) !== 1) {
                        break;
                    }
                    $at += strlen($colon[0]);

                    continue;
                }
                $here = self::join($path, $list, $position, $key);
                [$decoded, $breaks] = self::decode($raw, $start);
                if ($decoded !== '') {
                    $this->values->read($slice->inner($decoded, $start, $breaks, $layer, $here), $found, $rules, $others);
                }
                $key = null;
            } elseif (isset($m[2][0])) {
                $here = self::join($path, $list, $position, $key);
                $this->values->number($slice->inner($m[2][0], $m[2][1], [], $number, $here), $found, $rules, $others);
                $key = null;
            } elseif (isset($m[3][0])) {
                $mark = $m[3][0];
                if ($mark === '{' || $mark === '[') {
                    if (count($stack) >= self::MAX_DEPTH) {
                        $found->problem($slice->outer($m[3][1]), 'The json is nested deeper than '.self::MAX_DEPTH.' levels; the rest was not read.');

                        return;
                    }
                    $stack[] = [$path, $list, $position];
                    $path = self::join($path, $list, $position, $key, count($stack) === 1);
                    $list = $mark === '[';
                    $position = 0;
                    $key = null;
                } elseif ($mark === '}' || $mark === ']') {
                    if ($stack === [] || $list !== ($mark === ']')) {
                        $found->problem($slice->outer($m[3][1]), "The json has a \"$mark\" that closes nothing; what follows was not read.");

                        return;
                    }
                    [$path, $list, $position] = array_pop($stack);
                    $key = null;
                } elseif ($mark === ',') {
                    $position++;
                    $key = null;
                }
            } elseif (isset($m[4][0])) {
                $key = null;
            } else {
                break;
            }
            if ($stack === []) {
                $at += strspn($text, " \t\r\n", $at);
                if ($at >= strlen($text)) {
                    return;
                }

                break;
            }
        }
        if (trim($text) !== '') {
            $found->problem($slice->outer(min($at, strlen($text))), 'The json is damaged or cut off here; what follows was not read.');
        }
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
     * @return array{string, list<array{int, int}>}
     */
    private static function decode(string $raw, int $start = 0): array
    {
        if (! str_contains($raw, '\\')) {
            return [$raw, []];
        }
        preg_match_all('~\\\\(?:u(d[89ab][0-9a-f]{2})\\\\u(d[c-f][0-9a-f]{2})|u([0-9a-f]{4})|(.))~is', $raw, $escapes, PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL);
        $out = '';
        $breaks = [];
        $from = 0;
        foreach ($escapes as $escape) {
            [$whole, $offset] = $escape[0];
            $out .= substr($raw, $from, $offset - $from);
            if (isset($escape[1][0], $escape[2][0])) {
                $out .= mb_chr(0x10000 + ((((int) hexdec($escape[1][0])) & 0x3FF) << 10) + (((int) hexdec($escape[2][0])) & 0x3FF), 'UTF-8');
            } elseif (isset($escape[3][0])) {
                // A lone surrogate has no character; the replacement character stands for it.
                $out .= mb_chr((int) hexdec($escape[3][0]), 'UTF-8') ?: "\u{FFFD}";
            } else {
                $character = (string) ($escape[4][0] ?? '');
                $out .= ['b' => "\x08", 'f' => "\f", 'n' => "\n", 'r' => "\r", 't' => "\t"][$character] ?? $character;
            }
            $from = $offset + strlen((string) $whole);
            $breaks[] = [strlen($out), $start + $from];
        }

        return [$out.substr($raw, $from), $breaks];
    }
}
