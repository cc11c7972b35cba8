<?php

declare(strict_types=1);

namespace Ylema\Reading\Encoding;

use Ylema\Reading\Decoding;
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Slice;

/**
 * Makes UTF-8 of text that is in another encoding, or of broken UTF-8, as a browser does: what is no character is
 * U+FFFD (Encoding Standard, 4.1). Every character keeps its bytes.
 *
 * @internal
 */
final class LegacyDecoder
{
    /** More broken bytes than this: a file's bytes, not text. */
    private const MOST_BROKEN = 250_000;

    private const MOST = 1_000_000;

    /** Well-formed UTF-8 (Unicode 15, table 3-7), then as much of a character as is there (3.9, "maximal subpart"). */
    private const STRAY = '~\G(?:[\x00-\x7F]++|[\xC2-\xDF][\x80-\xBF]|\xE0[\xA0-\xBF][\x80-\xBF]'
        .'|[\xE1-\xEC\xEE\xEF][\x80-\xBF]{2}'
        .'|\xED[\x80-\x9F][\x80-\xBF]|\xF0[\x90-\xBF][\x80-\xBF]{2}|[\xF1-\xF3][\x80-\xBF]{3}'
        .'|\xF4[\x80-\x8F][\x80-\xBF]{2})*+'
        .'(\xE0[\xA0-\xBF]|[\xE1-\xEC\xEE\xEF][\x80-\xBF]|\xED[\x80-\x9F]|\xF0[\x90-\xBF][\x80-\xBF]?+'
        .'|[\xF1-\xF3][\x80-\xBF]{1,2}+'
        .'|\xF4[\x80-\x8F][\x80-\xBF]?+|[\x80-\xFF])~S';

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

    /** A few words for the eye, whatever their encoding. */
    public static function text(string $text, ?Charset $charset): string
    {
        return self::isNeeded($text) ? ($charset ?? Charset::utf8())->text($text) : $text;
    }

    /** Broken UTF-8 with the sign for it in the place of what is no character. */
    public static function mended(string $text): string
    {
        $decoding = new Decoding($text, 0);
        self::mend($decoding, $text);

        return $decoding->done()[0];
    }

    /**
     * A stretch of a slice as a slice of its own.
     *
     * @return Slice|null null where the bytes are no text in that encoding
     */
    public static function decode(Slice $slice, string $raw, int $start, Charset $charset): ?Slice
    {
        $decoding = new Decoding($raw, $start);
        $isRead = $charset->isUtf8() ? self::mend($decoding, $raw) : self::convert($decoding, $raw, $charset);
        [$text, $breaks] = $decoding->done();

        return $isRead ? $slice->inner($text, $start, $breaks, $charset->layer()) : null;
    }

    private static function convert(Decoding $decoding, string $raw, Charset $charset): bool
    {
        $pattern = '~'.$charset->character().'~sS';
        $at = 0;
        for ($n = 0; preg_match($pattern, $raw, $m, PREG_OFFSET_CAPTURE, $at) === 1; $n++) {
            if ($n > self::MOST) {
                return false;
            }
            $at = $m[0][1] + strlen($m[0][0]);
            $decoding->replace($m[0][1], strlen($m[0][0]), $charset->decode($m[0][0]));
        }
        PatternGaveUp::check();

        return true;
    }

    private static function mend(Decoding $decoding, string $raw): bool
    {
        $at = 0;
        for ($n = 0; preg_match(self::STRAY, $raw, $m, 0, $at) === 1; $n++) {
            if ($n > self::MOST_BROKEN) {
                return false;
            }
            $at += strlen($m[0]);
            $decoding->replace($at - strlen($m[1]), strlen($m[1]), "\u{FFFD}");
        }
        PatternGaveUp::check();

        return true;
    }
}
