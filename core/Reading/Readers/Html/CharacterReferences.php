<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Html;

use Ylema\Reading\Breaks;
use Ylema\Reading\Decoding;
use Ylema\Reading\Encoding\CodePoint;
use Ylema\Reading\Encoding\Windows1252;
use Ylema\Reading\PatternGaveUp;

/**
 * Character references in an attribute value (HTML Standard, 13.2.5.72–80).
 *
 * @internal
 */
final class CharacterReferences
{
    /** Names that count without their semicolon, for compatibility (13.5); longest first where one begins another. */
    private const BARE = 'amp|AMP|lt|LT|gt|GT|quot|QUOT|nbsp|copy|COPY|reg|REG|deg|plusmn|sup2|sup3|acute|micro|para|middot|cedil|sup1|ordm|raquo|frac14|frac12|frac34|iquest|Agrave|Aacute|Acirc|Atilde|Auml|Aring|AElig|Ccedil|Egrave|Eacute|Ecirc|Euml|Igrave|Iacute|Icirc|Iuml|ETH|Ntilde|Ograve|Oacute|Ocirc|Otilde|Ouml|times|Oslash|Ugrave|Uacute|Ucirc|Uuml|Yacute|THORN|szlig|agrave|aacute|acirc|atilde|auml|aring|aelig|ccedil|egrave|eacute|ecirc|euml|igrave|iacute|icirc|iuml|eth|ntilde|ograve|oacute|ocirc|otilde|ouml|divide|oslash|ugrave|uacute|ucirc|uuml|yacute|thorn|yuml|iexcl|cent|pound|curren|yen|brvbar|sect|uml|ordf|laquo|not|shy|macr';

    /**
     * @param  int  $start offset of the raw text in its slice, added to each break
     * @return array{string, Breaks|null} see Decoding
     */
    public static function decode(string $raw, int $start): array
    {
        if (strpbrk($raw, "&\r\0") === false) {
            return [$raw, null];
        }
        if (substr_count($raw, '&') === substr_count($raw, '&amp;') && strpbrk($raw, "\r\0") === false) {
            return self::ampersands($raw, $start);
        }
        // In an attribute, a bare name before "=" or a letter or digit stays as it is (13.2.5.73).
        $pattern = '~&(?:#[xX]([0-9a-fA-F]+);?|#([0-9]+);?|([a-zA-Z][a-zA-Z0-9]*;)|('.self::BARE
            .')(?![=a-zA-Z0-9]))|(\r\n?)|(\x00)~';
        preg_match_all($pattern, $raw, $matches, PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL);
        PatternGaveUp::check();
        $decoding = new Decoding($raw, $start);
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
            $decoding->replace($offset, strlen($whole), $character);
        }

        return $decoding->done();
    }

    /**
     * The same where nothing but `&amp;` stands, as in most addresses that hold an ampersand.
     *
     * @return array{string, Breaks|null}
     */
    private static function ampersands(string $raw, int $start): array
    {
        $decoding = new Decoding($raw, $start);
        for ($at = strpos($raw, '&'); $at !== false; $at = strpos($raw, '&', $at + 5)) {
            $decoding->replace($at, 5, '&');
        }

        return $decoding->done();
    }

    private static function named(string $reference): ?string
    {
        $character = html_entity_decode($reference, ENT_QUOTES | ENT_HTML5, 'UTF-8');

        return $character === $reference ? null : $character;
    }

    private static function point(int $point): string
    {
        // References to the control characters above ASCII name what windows-1252 has there (13.2.5.80).
        return CodePoint::character($point === 0 ? 0xFFFD : Windows1252::point($point));
    }
}
