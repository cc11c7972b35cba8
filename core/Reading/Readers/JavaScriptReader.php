<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
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
    /** A regular expression may hold quotes; it can stand only where a value can begin. */
    private const TOKENS = '~//[^\n]*+|/\*(?:[^*]++|\*(?!/))*+(?:\*/|\z)|(?<=[=(,:;!&|?{}\[\n])\s*+/(?![*/])(?:[^/\\\\\[\n]++|\\\\.|\[(?:[^\]\\\\\n]++|\\\\.)*+\])++/|"((?:[^"\\\\\n]++|\\\\(?s:.))*+)"|\'((?:[^\'\\\\\n]++|\\\\(?s:.))*+)\'|`((?:[^`\\\\$]++|\\\\(?s:.)|\$(?!\{))*+)`~S';

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        $slashes = str_contains($text, '\/');
        $at = 0;
        $found->enterCondition();
        while (preg_match(self::TOKENS, $text, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL, $at) === 1) {
            $at = $m[0][1] + max(1, strlen((string) $m[0][0]));
            foreach ([1 => '"', 2 => "'", 3 => '`'] as $group => $quote) {
                [$raw, $offset] = $m[$group];
                if ($raw === null || strlen($raw) < 4) {
                    continue;
                }
                [$value, $breaks] = self::decode($raw, $offset);
                $notation = match (true) {
                    $rules->looksLikeAddress($value) => Notation::Url,
                    preg_match('~<[a-z]+[\s>]~i', $value) === 1 => Notation::Html,
                    default => null,
                };
                if ($notation !== null) {
                    $others->into($slice->inner($value, $offset, $breaks, new JavaScriptString($quote, $slashes)), $notation, $found, $rules->forField($notation === Notation::Url ? 'script' : $rules->role, null));
                }
            }
        }
        $found->leaveCondition();
    }

    /** @return array{string, list<array{int, int}>} */
    private static function decode(string $raw, int $start): array
    {
        if (! str_contains($raw, '\\')) {
            return [$raw, []];
        }
        preg_match_all('~\\\\(?:u(d[89ab][0-9a-f]{2})\\\\u(d[c-f][0-9a-f]{2})|u([0-9a-f]{4})|u\{([0-9a-f]{1,6})\}|x([0-9a-f]{2})|(\r\n|.))~isS', $raw, $matches, PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL);
        $out = '';
        $breaks = [];
        $from = 0;
        foreach ($matches as $m) {
            [$whole, $offset] = $m[0];
            $out .= substr($raw, $from, $offset - $from);
            $hex = $m[3][0] ?? $m[4][0] ?? $m[5][0] ?? null;
            $out .= match (true) {
                isset($m[1][0], $m[2][0]) => (string) mb_chr(0x10000 + ((((int) hexdec($m[1][0])) & 0x3FF) << 10) + (((int) hexdec($m[2][0])) & 0x3FF), 'UTF-8'),
                $hex !== null => mb_chr((int) hexdec($hex), 'UTF-8') ?: "\u{FFFD}",
                default => ['n' => "\n", 't' => "\t", 'r' => "\r", 'b' => "\x08", 'f' => "\f", 'v' => "\x0B", '0' => "\0", "\n" => '', "\r\n" => '', "\r" => ''][(string) ($m[6][0] ?? '')] ?? (string) ($m[6][0] ?? ''),
            };
            $from = $offset + strlen((string) $whole);
            $breaks[] = [strlen($out), $start + $from];
        }

        return [$out.substr($raw, $from), $breaks];
    }
}
