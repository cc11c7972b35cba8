<?php

declare(strict_types=1);

namespace Ylema;

/** Rows as RFC 4180 writes them: cells in quotes where they must be, lines ended by CR LF. */
final class Csv
{
    /** @param  list<string|int|null>  $cells */
    public static function row(array $cells): string
    {
        return implode(',', array_map(self::cell(...), $cells))."\r\n";
    }

    private static function cell(string|int|null $value): string
    {
        $text = (string) $value;
        // A cell that a spreadsheet would take for a formula is one only to it; a number is none.
        if (is_string($value) && preg_match('~^[=+@\t\r]|^-(?!\d++(?:\.\d++)?$)~D', $text) === 1) {
            $text = "'$text";
        }

        return strpbrk($text, "\",\r\n") === false ? $text : '"'.str_replace('"', '""', $text).'"';
    }
}
