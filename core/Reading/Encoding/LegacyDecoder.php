<?php

declare(strict_types=1);

namespace Ylema\Reading\Encoding;

use Ylema\Reading\Breaks;
use Ylema\Reading\Decoding;
use Ylema\Reading\Layer;
use Ylema\Reading\Layers\EncodedText;
use Ylema\Reading\Layers\LegacyText;
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Slice;

/**
 * Makes UTF-8 of text that is not. Where it says in which encoding it is, it is read in that; else every byte that is
 * no part of a UTF-8 character is read as windows-1252, and the rest stays, so that a text that two programs with two
 * encodings wrote into reads as both meant it.
 *
 * @internal
 */
final class LegacyDecoder
{
    /** More bytes than this out of place: a file's bytes, not text. */
    private const MOST = 250_000;

    /** Well-formed UTF-8 (Unicode 15, table 3-7), then a byte that is none. */
    private const STRAY = '~\G(?:[\x00-\x7F]++|([\xC2-\xDF][\x80-\xBF]|\xE0[\xA0-\xBF][\x80-\xBF]|[\xE1-\xEC\xEE\xEF][\x80-\xBF]{2}|\xED[\x80-\x9F][\x80-\xBF]|\xF0[\x90-\xBF][\x80-\xBF]{2}|[\xF1-\xF3][\x80-\xBF]{3}|\xF4[\x80-\x8F][\x80-\xBF]{2}))*+([\x80-\xFF])~S';

    public static function isNeeded(string $text): bool
    {
        // PCRE checks twice as fast as mb_check_encoding().
        if (preg_match('//u', $text) === 1) {
            return false;
        }
        // That is no search that gave up, and whoever asks next shall not take it for one.
        preg_match('~~', '');

        return true;
    }

    /**
     * The layer in which text that is not UTF-8 is to be written; null where it is. Text of nothing but ASCII is what
     * it says it is.
     */
    public static function layer(string $text, ?Charset $declared = null): ?Layer
    {
        if ($declared !== null && (self::isNeeded($text) || preg_match('~[\x80-\xFF]~', $text) !== 1)) {
            return new EncodedText($declared);
        }

        return self::isNeeded($text) ? self::convert($text)[2] ?? null : null;
    }

    /** A few words for the eye, whatever their encoding. */
    public static function text(string $text, ?Charset $declared = null): string
    {
        if (! self::isNeeded($text)) {
            return $text;
        }

        return ($declared === null ? self::convert($text) : self::declared($text, $declared))[0] ?? '';
    }

    /** @return Slice|null null where the bytes are no text in any encoding */
    public static function decode(Slice $slice, ?Charset $declared = null): ?Slice
    {
        $converted = $declared === null ? self::convert($slice->text) : self::declared($slice->text, $declared);

        return $converted === null ? null : $slice->inner($converted[0], 0, $converted[1], $converted[2]);
    }

    /** @return array{string, Breaks|null, EncodedText}|null */
    private static function declared(string $text, Charset $charset): ?array
    {
        $decoding = new Decoding($text, 0);
        $pattern = '~'.$charset->character().'~S';
        $at = 0;
        for ($n = 0; preg_match($pattern, $text, $m, PREG_OFFSET_CAPTURE, $at) === 1; $n++) {
            if ($n > 4 * self::MOST) {
                return null;
            }
            $at = $m[0][1] + strlen($m[0][0]);
            $decoding->replace($m[0][1], strlen($m[0][0]), $charset->decode($m[0][0]));
        }

        PatternGaveUp::check();

        return [...$decoding->done(), new EncodedText($charset)];
    }

    /** @return array{string, Breaks|null, LegacyText}|null */
    private static function convert(string $text): ?array
    {
        $decoding = new Decoding($text, 0);
        $mixed = false;
        $at = 0;
        for ($strays = 0; preg_match(self::STRAY, $text, $m, PREG_UNMATCHED_AS_NULL, $at) === 1; $strays++) {
            if ($strays > self::MOST) {
                return null;
            }
            $mixed = $mixed || $m[1] !== null;
            $at += strlen((string) $m[0]);
            $decoding->replace($at - 1, 1, CodePoint::character(Windows1252::point(ord((string) $m[2]))));
        }
        PatternGaveUp::check();
        $mixed = $mixed || preg_match('~[\x80-\xFF]~', $text, $m, 0, $at) === 1;

        return [...$decoding->done(), new LegacyText($mixed)];
    }
}
