<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Sites\Hole;

/**
 * A text with columns in braces: `journal/{day.year}/{slug}`. A column of a join has the join's name before it; what
 * may stand in braces beside, Hole says.
 */
final readonly class Template
{
    public function __construct(public string $text)
    {
    }

    public static function column(string $name): self
    {
        return new self('{'.$name.'}');
    }

    /** @return list<Hole> */
    private function holes(): array
    {
        preg_match_all(Hole::PATTERN, $this->text, $found);

        return array_map(Hole::of(...), $found[1]);
    }

    /** @return list<string> the columns that are needed, each once */
    public function columns(): array
    {
        return array_values(array_unique(array_map(static fn (Hole $hole): string => $hole->column, $this->holes())));
    }

    /**
     * @param  callable(string): string  $value of a column
     * @param  array<string, DateColumn>  $dates how moments in columns are written
     */
    public function fill(callable $value, array $dates = []): string
    {
        return preg_replace_callback(
            Hole::PATTERN,
            static fn (array $found): string => self::said(Hole::of($found[1]), $value, $dates),
            $this->text,
        ) ?? $this->text;
    }

    /**
     * Whether its last part is one of a value that does not have it, as a name in a language that was not translated.
     *
     * @param  callable(string): string  $value of a column
     */
    public function lacksLast(callable $value): bool
    {
        $holes = $this->holes();
        $last = end($holes);

        return $last !== false && $last->key !== null && self::said($last, $value, []) === '';
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
        foreach (preg_split(Hole::PATTERN, $this->text, -1, PREG_SPLIT_DELIM_CAPTURE) ?: [] as $i => $piece) {
            $pattern .= $i % 2 === 0 ? preg_quote($piece, '~') : '(.+)';
            if ($i % 2 === 1) {
                $hole = Hole::of($piece);
                // Of a part of a value nobody can tell the rest.
                if (! $hole->isWhole()) {
                    return null;
                }
                $columns[] = $hole->column;
            }
        }

        return preg_match("~^$pattern\$~Ds", $text, $found) === 1
            ? array_combine($columns, array_slice($found, 1))
            : null;
    }

    /**
     * @param  callable(string): string  $value
     * @param  array<string, DateColumn>  $dates
     */
    private static function said(Hole $hole, callable $value, array $dates): string
    {
        $text = $value($hole->column);
        if ($hole->date !== null) {
            $moment = ($dates[$hole->column] ?? new DateColumn($hole->column))->moment($text, false);
            $text = $moment?->format('Y-m-d') ?? '';
        }
        $said = $hole->said($text);

        return $said === '' ? $hole->else : $said;
    }
}
