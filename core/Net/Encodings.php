<?php

declare(strict_types=1);

namespace Ylema\Net;

use Ylema\Reading\Breaks;
use Ylema\Reading\Decoding;
use Ylema\Reading\Encoding\CodePoint;
use Ylema\Reading\Encoding\Windows1252;

/**
 * What bytes may say that are no UTF-8: text in one byte a letter, in two or in four, or such text among other bytes.
 *
 * @internal
 */
final class Encodings
{
    private const WIDE = ['UTF-16LE' => 2, 'UTF-16BE' => 2, 'UTF-32LE' => 4, 'UTF-32BE' => 4];

    /**
     * @param  bool  $beyondAscii whether names are looked for that ASCII cannot say
     * @return list<Peeled>
     */
    public static function of(Peeled $from, bool $beyondAscii): array
    {
        $found = [];
        if (str_contains($from->text, "\0")) {
            // A letter of ASCII is itself and one or three bytes of nothing, wherever it begins.
            $found[] = self::replaced($from, '~\x00++~', static fn (): string => '');
            foreach ($beyondAscii ? self::WIDE : [] as $encoding => $width) {
                $found[] = self::wide($from, $encoding, $width);
            }
        }
        if ($beyondAscii && preg_match('//u', $from->text) !== 1) {
            $found[] = self::replaced(
                $from,
                '~[\x80-\xff]~',
                static fn (string $byte): string => CodePoint::character(Windows1252::point(ord($byte))),
            );
        }

        return $found;
    }

    /** @param  callable(string): string  $by */
    private static function replaced(Peeled $from, string $pattern, callable $by): Peeled
    {
        $decoding = new Decoding($from->text, 0);
        preg_match_all($pattern, $from->text, $found, PREG_OFFSET_CAPTURE);
        foreach ($found[0] as [$bytes, $offset]) {
            $decoding->replace($offset, strlen($bytes), $by($bytes));
        }

        return $from->without(...$decoding->done());
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

        return $from->without($decoded, new Breaks($pairs));
    }
}
