<?php

declare(strict_types=1);

namespace App\Support;

/** Lists of any length in one binding: PostgreSQL takes no more than 65,535 of them in a statement. */
final class Sql
{
    /** A text as PostgreSQL can keep it: what is no UTF-8 stands as U+FFFD, and NUL is left out. */
    public static function text(string $text): string
    {
        if (! mb_check_encoding($text, 'UTF-8')) {
            $before = mb_substitute_character();
            mb_substitute_character(0xFFFD);
            $text = mb_scrub($text, 'UTF-8');
            mb_substitute_character($before);
        }

        return str_replace("\0", '', $text);
    }

    /** @param  iterable<int>  $ids for `= any(cast(? as bigint[]))` */
    public static function ids(iterable $ids): string
    {
        return '{'.implode(',', is_array($ids) ? $ids : iterator_to_array($ids, false)).'}';
    }

    /** @param  list<string>  $texts for `= any(cast(? as text[]))`; what is no text for PostgreSQL is left out */
    public static function texts(array $texts): string
    {
        $valid = array_filter(
            $texts,
            static fn (string $v): bool => mb_check_encoding($v, 'UTF-8') && ! str_contains($v, "\0"),
        );

        return '{'
            .implode(',', array_map(static fn (string $v): string => '"'.addcslashes($v, '"\\').'"', $valid))
            .'}';
    }
}
