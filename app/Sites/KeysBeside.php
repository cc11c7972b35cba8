<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Column;
use App\Sites\Sql\Connection;
use Ylema\Connect\Hints;
use Ylema\Connect\KeyColumn;
use Ylema\Connect\MediaKeys;

/**
 * Columns beside the field map whose values could be keys of media: in all rows, or in those of one word in another
 * column, as of a table of attributes.
 */
final class KeysBeside
{
    /** Bytes of a value that is fetched; a longer one is a text, or a list that is too long to be one of keys. */
    private const LONGEST = 4000;

    /** Bytes of a word that tells kinds of rows apart, and how many of them a column may have. */
    private const WORD = 64;

    private const WORDS = 24;

    /** Columns of words in one table. */
    private const SORTS = 8;

    /** Values that another table is asked for. */
    private const ASKED = 100;

    /** @param  list<string>  $tables all of the database */
    public function __construct(
        private readonly Connection $database,
        private readonly MediaKeys $media,
        private readonly array $tables,
        private readonly ?string $mediaTable,
    ) {
    }

    /**
     * @param  list<CellsBeside>  $beside the columns that no line reads, and in which rows
     * @return list<LikelyKeys>
     */
    public function in(string $table, array $beside): array
    {
        $columns = $this->database->dialect->columns($this->database->pdo(), $table);
        $key = $this->database->key($table);
        // What names one row alone sorts none.
        $single = count($key) === 1 ? array_flip($key) : [];
        $sorts = array_diff_key(array_filter($columns, self::sorts(...)), $single);
        // Words say more than numbers of what a row is.
        uasort($sorts, static fn (Column $a, Column $b): int => $a->isNumber <=> $b->isNumber);
        $sorts = array_slice(array_map(strval(...), array_keys($sorts)), 0, self::SORTS);
        [$whole, $parts] = $this->gathered($table, $columns, $key, $beside, $sorts);
        $found = [];
        foreach ($whole as $column => $all) {
            $column = (string) $column;
            // Rows of a table of attributes are told apart by their names: of them all, nothing can be said.
            $named = array_filter(
                $parts[$column] ?? [],
                static fn (array $words, int|string $by): bool => Hints::say(Hints::NAME, (string) $by)
                    && 2 * count($words) <= $all->rows(),
                ARRAY_FILTER_USE_BOTH,
            );
            if ($named === [] && $this->areKeys($table, $all, [$column])) {
                $found[] = new LikelyKeys($table, $column, null, null, $all);

                continue;
            }
            $best = [];
            foreach ($named ?: $parts[$column] ?? [] as $by => $words) {
                $own = [];
                foreach ($words as $word => $some) {
                    if ($this->areKeys($table, $some, [$column, (string) $word])) {
                        $own[] = new LikelyKeys($table, $column, (string) $by, (string) $word, $some);
                    }
                }
                $best = self::hits($own) > self::hits($best) ? $own : $best;
            }
            array_push($found, ...$best);
        }

        return $found;
    }

    /** @param  list<LikelyKeys>  $of */
    private static function hits(array $of): int
    {
        return array_sum(array_map(static fn (LikelyKeys $one): int => count($one->keys->hits()), $of));
    }

    /** Whether a column may say of what kind a row is. */
    private static function sorts(Column $column): bool
    {
        return ! $column->isBinary && ! $column->isFloating && ($column->isNumber || ! $column->isWordless());
    }

    /**
     * One pass over the rows.
     *
     * @param  array<string, Column>  $columns
     * @param  list<string>  $key
     * @param  list<CellsBeside>  $beside
     * @param  list<string>  $sorts
     * @return array{array<array-key, KeyColumn>, array<array-key, array<array-key, array<array-key, KeyColumn>>>} by
     *     column; and by column, the one that sorts its rows, and its word
     */
    private function gathered(string $table, array $columns, array $key, array $beside, array $sorts): array
    {
        $dialect = $this->database->dialect;
        $selected = $asked = $whole = $parts = $tooMany = [];
        foreach ($key as $n => $name) {
            $selected[] = $dialect->text($dialect->name($name))." as k$n";
        }
        foreach ($beside as $cells) {
            foreach ($cells->columns as $column) {
                if ($columns[$column]->isBinary || $columns[$column]->isFloating) {
                    continue;
                }
                $selected[] = $this->short($column, self::LONGEST, $cells->where).' as c'.count($asked);
                $asked[] = $column;
                $whole[$column] = new KeyColumn($this->media);
            }
        }
        foreach ($sorts as $n => $sort) {
            $selected[] = $this->short($sort, self::WORD, null)." as s$n";
        }
        if ($asked === []) {
            return [[], []];
        }
        $sql = 'select '.implode(', ', $selected)." from {$dialect->quote($table)}";
        foreach ($dialect->stream($this->database->pdo(), $sql) as $row) {
            $at = implode(' ', array_map(
                static fn (int $n): string => Text::of($row["k$n"] ?? null),
                array_keys($key),
            ));
            foreach ($asked as $n => $column) {
                $value = Text::of($row["c$n"] ?? null);
                $own = $value === '' ? [] : KeyColumn::parts($value, $this->media);
                if ($own === []) {
                    continue;
                }
                $whole[$column]->add($own, $at);
                foreach ($sorts as $s => $sort) {
                    $word = Text::of($row["s$s"] ?? null);
                    if ($sort === $column || $word === '' || isset($tooMany[$column][$sort])) {
                        continue;
                    }
                    $parts[$column][$sort][$word] ??= new KeyColumn($this->media);
                    $parts[$column][$sort][$word]->add($own, $at);
                    if (count($parts[$column][$sort]) > self::WORDS) {
                        // It says something else of each row.
                        $tooMany[$column][$sort] = true;
                        unset($parts[$column][$sort]);
                    }
                }
            }
        }

        return [$whole, $parts];
    }

    private function short(string $column, int $bytes, ?string $where): string
    {
        $text = $this->database->dialect->text($this->database->dialect->name($column));
        $is = $where === null ? '' : "($where) and ";

        return "case when $is{$this->database->dialect->size($text)} <= $bytes then $text end";
    }

    /** @param  list<string>  $names the column's, and the word of its rows */
    private function areKeys(string $table, KeyColumn $values, array $names): bool
    {
        return $values->couldBeKeys($names) && ! $this->areOthers($table, $values, $names);
    }

    /**
     * Whether they are the keys of another table that the names speak of.
     *
     * @param  list<string>  $names
     */
    private function areOthers(string $table, KeyColumn $values, array $names): bool
    {
        $prefix = Hints::prefix($this->tables);
        foreach ($this->tables as $other) {
            $isNamed = array_filter($names, static fn (string $name): bool => self::means($name, $other, $prefix)
                || ($other === $table && Hints::say(Hints::PARENT, $name))) !== [];
            if ($isNamed && $other !== $this->mediaTable && $this->holds($other, array_keys($values->hits()))) {
                return true;
            }
        }

        return false;
    }

    /** Whether a column's name, or the word of its rows, says that it has keys of this table. */
    private static function means(string $name, string $table, string $prefix): bool
    {
        $own = Hints::keyOf($name);
        $stem = Hints::stem($table, $prefix);

        return ($own !== '' && ($own === $stem || str_ends_with($stem, "_$own") || Hints::alike($own, $stem)))
            || (preg_match(Hints::CURRENT, Hints::apart($name)) === 1 && Hints::say(Hints::EARLIER, $table));
    }

    /** @param  list<array-key>  $keys */
    private function holds(string $table, array $keys): bool
    {
        $key = $this->database->key($table);
        $columns = $this->database->dialect->columns($this->database->pdo(), $table);
        $keys = array_map(strval(...), array_slice($keys, 0, self::ASKED));
        if (count($key) !== 1 || array_filter($keys, $columns[$key[0]]->canHold(...)) !== $keys) {
            return false;
        }
        $name = $this->database->dialect->name($key[0]);
        $parameter = $this->database->dialect->keyParameter($columns[$key[0]]);
        $count = $this->database->run(
            "select count(*) from {$this->database->dialect->quote($table)} where $name in ("
                .implode(', ', array_fill(0, count($keys), $parameter)).')',
            $keys,
        )->fetchColumn();

        return is_numeric($count) && $count >= KeyColumn::SHARE * count($keys);
    }
}
