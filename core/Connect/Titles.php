<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** Which column of a table says what a row is called: by its own name, or by words that look like titles. */
final class Titles
{
    /** Characters of a title, and no more. */
    private const TITLE = '~^\p{Lu}?[^<>\n{}]{2,160}$~Du';

    /** Words apart, or one with a large letter: what is no name in addresses, no file and no code. */
    private const WORDS = '~^(?!\S+@\S+$)(?!https?:)(?!\S*/)\p{L}.*(?:\p{L}\S* \S|\p{L}{3})~u';

    private const CODE = '~^[a-z0-9._/#:-]+$~D';

    /** So many of its values look like a title, and so many are others than the rest. */
    private const ENOUGH = 0.9;

    private const DIFFERENT = 0.8;

    /** Titles are said in a few words; a longer one is a text. */
    private const FIRST = 8;

    public static function of(TableProfile $table): ?string
    {
        foreach ($table->columns as $column) {
            if ($column->type === ColumnType::Text && $column->values !== []
                && Hints::say(Hints::TITLE, $column->called())) {
                return $column->name;
            }
        }
        foreach (array_slice($table->columns, 0, self::FIRST) as $column) {
            if (self::looksSo($column)) {
                return $column->name;
            }
        }

        return null;
    }

    private static function looksSo(ColumnProfile $column): bool
    {
        return $column->type === ColumnType::Text
            && count($column->values) > 1
            && ! Hints::say(Hints::SLUG, $column->called())
            && ! Hints::say(Hints::MEDIA, $column->called())
            && $column->share(self::TITLE) >= self::ENOUGH
            && $column->share(self::WORDS) >= self::ENOUGH
            && $column->share(self::CODE) < 1 - self::ENOUGH
            && $column->share('~\.[a-z0-9]{2,5}$~i') === 0.0
            && count($column->distinct()) >= self::DIFFERENT * count($column->values);
    }
}
