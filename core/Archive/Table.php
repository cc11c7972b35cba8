<?php

declare(strict_types=1);

namespace Ylema\Archive;

/** Rows as RFC 4180 writes them: cells in quotes where they must be, lines ended by CR LF. */
final class Table
{
    /** @param  list<string|int|null>  $cells */
    public static function row(array $cells): string
    {
        return implode(',', array_map(self::cell(...), $cells))."\r\n";
    }

    private static function cell(string|int|null $value): string
    {
        $text = (string) $value;
        // A cell that a spreadsheet would take for a formula is one only to it.
        if (is_string($value) && preg_match('~^[=+@\t\r]|^-(?!\d)~', $text) === 1) {
            $text = "'$text";
        }

        return strpbrk($text, "\",\r\n") === false ? $text : '"'.str_replace('"', '""', $text).'"';
    }
}
