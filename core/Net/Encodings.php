<?php

declare(strict_types=1);

namespace Ylema\Net;

use Ylema\Reading\Breaks;
use Ylema\Reading\Decoding;
use Ylema\Reading\Encoding\Charset;

/**
 * What bytes may say that are no UTF-8: text in one byte a letter, in two or in four, or such text among other bytes.
 *
 * @internal
 */
final class Encodings
{
    private const WIDE = ['UTF-16LE' => 2, 'UTF-16BE' => 2, 'UTF-32LE' => 4, 'UTF-32BE' => 4];

    /**
     * @param  list<Charset>  $charsets in which text that is no UTF-8 can say the names that are looked for; none where
     *       ASCII says all of them
     * @return list<Peeled>
     */
    public static function of(Peeled $from, array $charsets): array
    {
        $found = [];
        if (str_contains($from->text, "\0")) {
            // A letter of ASCII is itself and one or three bytes of nothing, wherever it begins.
            $found[] = self::replaced($from, '~\x00++~', static fn (): string => '');
            foreach ($charsets !== [] ? self::WIDE : [] as $encoding => $width) {
                $found[] = self::wide($from, $encoding, $width);
            }
        }
        if ($charsets !== [] && preg_match('//u', $from->text) !== 1) {
            // Nothing older than Unicode writes bytes of nothing, and nobody writes text in one of these in another.
            $likely = $from->isGuess || str_contains($from->text, "\0") ? array_slice($charsets, 0, 1) : $charsets;
            foreach ($likely as $charset) {
                $found[] = self::in($charset, $from);
            }
        }

        return $found;
    }

    /** What bytes say in one encoding. */
    public static function in(Charset $charset, Peeled $from): Peeled
    {
        return self::replaced($from, "~{$charset->character()}~s", $charset->decode(...));
    }

    /** @param  callable(string): string  $by */
    private static function replaced(Peeled $from, string $pattern, callable $by): Peeled
    {
        $decoding = new Decoding($from->text, 0);
        preg_match_all($pattern, $from->text, $found, PREG_OFFSET_CAPTURE);
        foreach ($found[0] as [$bytes, $offset]) {
            $decoding->replace($offset, strlen($bytes), $by($bytes));
        }

        return $from->guess(...$decoding->done());
    }

    private static function wide(Peeled $from, string $encoding, int $width): Peeled
    {
        $decoded = (string) mb_convert_encoding($from->text, 'UTF-8', $encoding);
        $pairs = '';
        $at = $source = 0;
        foreach (mb_str_split($decoded) as $character) {
            $bytes = strlen($character);
            $at += $bytes;
            // What is beyond the first plane takes two units of two bytes.
            $source += $width === 2 && $bytes === 4 ? 4 : $width;
            $pairs .= pack('VV', $at, $source);
        }

        return $from->guess($decoded, new Breaks($pairs));
    }
}
