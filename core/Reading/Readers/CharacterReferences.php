<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

/**
 * Character references in an attribute value (HTML Standard, 13.2.5.72–80).
 *
 * @internal
 */
final class CharacterReferences
{
    /** Numeric references in this range name windows-1252 characters (13.2.5.80). */
    private const WINDOWS_1252 = [
        0x80 => 0x20AC, 0x82 => 0x201A, 0x83 => 0x0192, 0x84 => 0x201E, 0x85 => 0x2026, 0x86 => 0x2020, 0x87 => 0x2021,
        0x88 => 0x02C6, 0x89 => 0x2030, 0x8A => 0x0160, 0x8B => 0x2039, 0x8C => 0x0152, 0x8E => 0x017D, 0x91 => 0x2018,
        0x92 => 0x2019, 0x93 => 0x201C, 0x94 => 0x201D, 0x95 => 0x2022, 0x96 => 0x2013, 0x97 => 0x2014, 0x98 => 0x02DC,
        0x99 => 0x2122, 0x9A => 0x0161, 0x9B => 0x203A, 0x9C => 0x0153, 0x9E => 0x017E, 0x9F => 0x0178,
    ];

    /** Names that count without their semicolon, for compatibility (13.5); longest first where one begins another. */
    private const BARE = 'amp|AMP|lt|LT|gt|GT|quot|QUOT|nbsp|copy|COPY|reg|REG|deg|plusmn|sup2|sup3|acute|micro|para|middot|cedil|sup1|ordm|raquo|frac14|frac12|frac34|iquest|Agrave|Aacute|Acirc|Atilde|Auml|Aring|AElig|Ccedil|Egrave|Eacute|Ecirc|Euml|Igrave|Iacute|Icirc|Iuml|ETH|Ntilde|Ograve|Oacute|Ocirc|Otilde|Ouml|times|Oslash|Ugrave|Uacute|Ucirc|Uuml|Yacute|THORN|szlig|agrave|aacute|acirc|atilde|auml|aring|aelig|ccedil|egrave|eacute|ecirc|euml|igrave|iacute|icirc|iuml|eth|ntilde|ograve|oacute|ocirc|otilde|ouml|divide|oslash|ugrave|uacute|ucirc|uuml|yacute|thorn|yuml|iexcl|cent|pound|curren|yen|brvbar|sect|uml|ordf|laquo|not|shy|macr';

    /**
     * @param  int  $start offset of the raw text in its slice, added to each break
     * @return array{string, list<array{int, int}>} the decoded text and its breaks (see Slice)
     */
    public static function decode(string $raw, int $start): array
    {
        if (strpbrk($raw, "&\r\0") === false) {
            return [$raw, []];
        }
        if (substr_count($raw, '&') === substr_count($raw, '&amp;') && strpbrk($raw, "\r\0") === false) {
            return self::ampersands($raw, $start);
        }
        // In an attribute, a bare name before "=" or a letter or digit stays as it is (13.2.5.73).
        $pattern = '~&(?:#[xX]([0-9a-fA-F]+);?|#([0-9]+);?|([a-zA-Z][a-zA-Z0-9]*;)|('.self::BARE.')(?![=a-zA-Z0-9]))|(\r\n?)|(\x00)~';
        preg_match_all($pattern, $raw, $matches, PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL);
        $out = '';
        $breaks = [];
        $from = 0;
        foreach ($matches as $m) {
            [$whole, $offset] = $m[0];
            $whole = (string) $whole;
            $character = match (true) {
                isset($m[1][0]) => self::point(strlen(ltrim($m[1][0], '0')) > 6 ? 0x110000 : (int) hexdec($m[1][0])),
                isset($m[2][0]) => self::point(strlen(ltrim($m[2][0], '0')) > 7 ? 0x110000 : (int) $m[2][0]),
                isset($m[3][0]) => self::named($whole),
                isset($m[4][0]) => self::named('&'.$m[4][0].';'),
                isset($m[5][0]) => "\n",
                default => "\u{FFFD}",
            };
            if ($character === null) {
                continue;
            }
            $out .= substr($raw, $from, $offset - $from).$character;
            $from = $offset + strlen($whole);
            $breaks[] = [strlen($out), $start + $from];
        }

        return [$out.substr($raw, $from), $breaks];
    }

    /**
     * The same where nothing but `&amp;` stands, as in most addresses that hold an ampersand.
     *
     * @return array{string, list<array{int, int}>}
     */
    private static function ampersands(string $raw, int $start): array
    {
        $breaks = [];
        $saved = 0;
        for ($at = strpos($raw, '&'); $at !== false; $at = strpos($raw, '&', $at + 5)) {
            $breaks[] = [$at - $saved + 1, $start + $at + 5];
            $saved += 4;
        }

        return [str_replace('&amp;', '&', $raw), $breaks];
    }

    private static function named(string $reference): ?string
    {
        $character = html_entity_decode($reference, ENT_QUOTES | ENT_HTML5, 'UTF-8');

        return $character === $reference ? null : $character;
    }

    private static function point(int $point): string
    {
        $point = self::WINDOWS_1252[$point] ?? $point;
        if ($point === 0 || $point > 0x10FFFF || ($point >= 0xD800 && $point <= 0xDFFF)) {
            return "\u{FFFD}";
        }

        return (string) mb_chr($point, 'UTF-8');
    }
}
