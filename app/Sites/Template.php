<?php

declare(strict_types=1);

namespace App\Sites;

/**
 * A text with columns in braces: `journal/{day.year}/{slug}`. A column of a join has the join's name before it, and
 * `.year`, `.month` and `.day` behind a column take a part of its date. Behind a bar stands what is said where the
 * column is empty: `{up.address|en}/{slug}`.
 */
final readonly class Template
{
    private const PARTS = ['year' => 'Y', 'month' => 'm', 'day' => 'd'];

    private const HOLE = '~\{([^{}]+)\}~';

    public function __construct(public string $text)
    {
    }

    public static function column(string $name): self
    {
        return new self('{'.$name.'}');
    }

    /** @return list<string> what stands in the braces, each once */
    public function holes(): array
    {
        preg_match_all(self::HOLE, $this->text, $found);
        $holes = array_map(static fn (string $hole): string => self::named($hole)[0], $found[1]);

        return array_values(array_unique($holes));
    }

    /** @return list<string> the columns that are needed, each once */
    public function columns(): array
    {
        return array_values(
            array_unique(array_map(static fn (string $hole): string => self::parted($hole)[0], $this->holes())),
        );
    }

    /**
     * @param  callable(string): string  $value of a column
     * @param  array<string, DateColumn>  $dates how moments in columns are written
     */
    public function fill(callable $value, array $dates = []): string
    {
        return preg_replace_callback(
            self::HOLE,
            static function (array $found) use ($value, $dates): string {
                [$hole, $else] = self::named($found[1]);
                [$column, $part] = self::parted($hole);
                $text = $value($column);
                if ($part !== null) {
                    $moment = ($dates[$column] ?? new DateColumn($column))->moment($text, false);
                    $text = $moment?->format($part) ?? '';
                }

                return $text === '' ? $else : $text;
            },
            $this->text,
        ) ?? $this->text;
    }

    /**
     * The values that would make a text of this template, as where a row is written whose path is told by parts.
     *
     * @return array<string, string>|null column → value; null where no values make it
     */
    public function unfill(string $text): ?array
    {
        $pattern = '';
        $columns = [];
        foreach (preg_split(self::HOLE, $this->text, -1, PREG_SPLIT_DELIM_CAPTURE) ?: [] as $i => $piece) {
            $pattern .= $i % 2 === 0 ? preg_quote($piece, '~') : '(.+)';
            if ($i % 2 === 1) {
                $columns[] = self::named($piece)[0];
            }
        }

        return preg_match("~^$pattern\$~Ds", $text, $found) === 1
            ? array_combine($columns, array_slice($found, 1))
            : null;
    }

    /** @return array{string, string} what is named in braces, and what is said where that is empty */
    private static function named(string $hole): array
    {
        $bar = strpos($hole, '|');

        return $bar === false ? [$hole, ''] : [substr($hole, 0, $bar), substr($hole, $bar + 1)];
    }

    /** @return array{string, string|null} column, and the letter of the part of its date */
    private static function parted(string $hole): array
    {
        $dot = strrpos($hole, '.');
        $part = $dot === false ? null : self::PARTS[substr($hole, $dot + 1)] ?? null;

        return $part === null ? [$hole, null] : [substr($hole, 0, (int) $dot), $part];
    }
}
