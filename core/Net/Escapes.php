<?php

declare(strict_types=1);

namespace Ylema\Net;

use Ylema\Reading\Breaks;
use Ylema\Reading\Encoding\CodePoint;

/**
 * Takes off one layer of escapes, of whatever notation: percent signs (RFC 3986, 2.1), character
 * references (HTML Standard, 13.2.5.72), backslashes of scripts, JSON and databases, and, as their own way to read a
 * backslash before hexadecimal digits, those of CSS (CSS Syntax Level 3, 4.3.7).
 *
 * Escapes are few in most texts, and a name that they hide is near one: only what is around them is made anew.
 *
 * @internal
 */
final class Escapes
{
    /** A reference by number ends without a semicolon as well, but not before what may hide more of its digits. */
    private const COMMON = '%u[0-9A-Fa-f]{4}|(?:%[0-9A-Fa-f]{2})+'
        .'|&#(?:\d{1,7}|[xX][0-9A-Fa-f]{1,6})(?:;|(?![0-9A-Fa-f%&\\\\]))|&[A-Za-z][A-Za-z0-9]{1,31};';

    private const SCRIPT = '\\\\(?:u\{[0-9A-Fa-f]{1,6}\}|u[0-9A-Fa-f]{4}(?:\\\\u[dD][c-fC-F][0-9A-Fa-f]{2})?'
        .'|x[0-9A-Fa-f]{2}|.)';

    private const STYLE = '\\\\(?:[0-9A-Fa-f]{1,6}(?:\r\n|[ \t\r\n\f])?|.)';

    /** How far before and behind an escape a name can reach that it is part of, in bytes. */
    private const AROUND = 600;

    private const LETTERS =
        ['n' => "\n", 'r' => "\r", 't' => "\t", 'b' => "\x08", 'f' => "\f", 'v' => "\v", '0' => "\0"];

    /** @return list<Peeled> what the text may say beneath */
    public static function peel(Peeled $from): array
    {
        $text = $from->text;
        if (strpbrk($text, '%&\\') === false) {
            return [];
        }
        // One kind at a time: what stands within another layer may look like an escape of this one, and taking it off
        // too early would spoil the other.
        $kinds = [self::COMMON];
        if (str_contains($text, '\\')) {
            $kinds[] = self::SCRIPT;
            if (preg_match('~\\\\[0-9A-Fa-f]~', $text) === 1) {
                $kinds[] = self::STYLE;
            }
        }
        $peeled = [];
        foreach ($kinds as $n => $kind) {
            $peeled[] = self::off($from, "~$kind~s", $n === 2 ? self::style(...) : self::script(...));
        }

        return array_values(array_filter($peeled));
    }

    /** @param  callable(string): string  $unescaped what a backslash with its letters stands for */
    private static function off(Peeled $from, string $pattern, callable $unescaped): ?Peeled
    {
        $raw = $from->text;
        if (preg_match_all($pattern, $raw, $found, PREG_OFFSET_CAPTURE) < 1) {
            return null;
        }
        $text = $pairs = '';
        $cuts = [];
        $at = $changed = 0;
        $length = strlen($raw);
        foreach ($found[0] as [$escape, $offset]) {
            $by = match ($escape[0]) {
                '%' => self::percent($escape),
                '&' => html_entity_decode(str_ends_with($escape, ';') ? $escape : "$escape;", ENT_QUOTES | ENT_HTML5),
                default => $unescaped($escape),
            };
            if ($by === $escape) {
                continue;
            }
            $changed++;
            if ($offset - $at > 2 * self::AROUND || ($at === 0 && $offset > self::AROUND)) {
                // What was taken before goes on a while, then the next stretch begins.
                if ($text !== '') {
                    $text .= substr($raw, $at, self::AROUND);
                    $cuts[strlen($text)] = true;
                    $text .= "\n";
                }
                $at = $offset - self::AROUND;
                $cuts[strlen($text)] = true;
                $pairs .= pack('VV', strlen($text), $at);
            }
            $text .= substr($raw, $at, $offset - $at);
            $at = $offset + strlen($escape);
            if ($escape[0] === '%' && $escape[1] !== 'u') {
                // Bytes one by one, since a name may be any stretch of them.
                for ($i = 1, $n = strlen($by); $i < $n; $i++) {
                    $pairs .= pack('VV', strlen($text) + $i, $offset + 3 * $i);
                }
            }
            $text .= $by;
            $pairs .= pack('VV', strlen($text), $at);
        }
        if ($changed === 0) {
            return null;
        }
        $text .= substr($raw, $at, self::AROUND);
        if ($at + self::AROUND < $length) {
            $cuts[strlen($text)] = true;
        }

        return $from->without($text, new Breaks($pairs), $cuts);
    }

    private static function percent(string $escape): string
    {
        return $escape[1] === 'u' ? CodePoint::character((int) hexdec(substr($escape, 2))) : rawurldecode($escape);
    }

    private static function script(string $escape): string
    {
        if (preg_match('~^\\\\u([dD][89abAB]..)\\\\u(....)$~D', $escape, $m) === 1) {
            return CodePoint::ofSurrogates((int) hexdec($m[1]), (int) hexdec($m[2]));
        }
        if (strlen($escape) > 2) {
            return CodePoint::character((int) hexdec(trim(substr($escape, 2, 6), '{}\\')))
                .(strlen($escape) > 10 ? CodePoint::character((int) hexdec(substr($escape, 8))) : '');
        }

        return self::LETTERS[$escape[1]] ?? $escape[1];
    }

    private static function style(string $escape): string
    {
        return preg_match('~^\\\\([0-9A-Fa-f]+)~', $escape, $m) === 1
            ? CodePoint::character((int) hexdec($m[1]))
            // A line may end behind a backslash, which is nothing then.
            : ltrim(substr($escape, 1), "\n");
    }
}
