<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Column;
use App\Sites\Sql\Connection;
use Illuminate\Support\Facades\Schema;
use PDOException;
use Ylema\Connect\MediaKeys;
use Ylema\Sites\SourceUnavailable;

/**
 * The tables, columns and rows of a content database that no line of the field map reads. They are streamed, so that
 * memory grows with none of them.
 */
final class TablesBeside
{
    /** Bytes that are fetched of a value at once. */
    private const PART = 1 << 18;

    /** What two parts of a value share, so that a name on their border is whole in one of them. */
    private const SHARED = 2048;

    /** Bytes of a value that are looked at; longer ones are said. */
    private const LONGEST = 64 << 20;

    /** Long values of one table that are remembered until its rows were streamed. */
    private const LONG_ONES = 20_000;

    /** Tables by which our own are known, where somebody keeps a site's content in our database. */
    private const OWN = ['reading_chunks', 'staged_mentions'];

    private readonly Connection $database;

    public function __construct(private readonly FieldMap $map, string $dsn, string $user, string $password)
    {
        $this->database = new Connection($map, $dsn, $user, $password);
    }

    /**
     * @return list<string>
     *
     * @throws SourceUnavailable
     */
    public function tables(): array
    {
        $tables = $this->database->dialect->tables($this->database->pdo());

        return array_diff(self::OWN, $tables) === []
            ? array_values(array_diff($tables, array_column(Schema::getTables(), 'name')))
            : $tables;
    }

    /**
     * @return iterable<Cell|NotSearched>
     *
     * @throws SourceUnavailable
     */
    public function cells(string $table): iterable
    {
        try {
            $isAsked = fn (string $_, Column $column): bool => $this->isLoose() || ! $column->isWordless();
            foreach ($this->beside($table, $isAsked) as $beside) {
                yield from $this->stream($beside);
            }
        } catch (PDOException $e) {
            if ($this->database->isAway($e)) {
                throw $this->database->unavailable($e);
            }
            $this->database->close();
            $why = $this->database->refused($e, "\"$table\"")->getMessage();
            yield new NotSearched($table, "The table could not be read: $why");
        }
    }

    /**
     * Columns of a table whose values could be keys of media.
     *
     * @return list<LikelyKeys|NotSearched>
     *
     * @throws SourceUnavailable
     */
    public function likelyKeys(string $table, MediaKeys $media): array
    {
        if ($media->isEmpty()) {
            return [];
        }
        $keys = new KeysBeside($this->database, $media, $this->tables(), $this->map->media?->table);
        try {
            $own = $this->database->key($table);
            // What names a row of this table names none of another.
            $isOwn = static fn (string $column): bool => $own === [$column];
            $beside = $this->beside($table, static fn (string $name, Column $column): bool => ! $isOwn($name)
                && ($column->isNumber || ! $column->isWordless()));

            return $keys->in($table, $beside);
        } catch (PDOException $e) {
            if ($this->database->isAway($e)) {
                throw $this->database->unavailable($e);
            }
            $this->database->close();
            $why = $this->database->refused($e, "\"$table\"")->getMessage();

            return [new NotSearched($table, "Its numbers could not be read: $why")];
        }
    }

    /**
     * Columns together that are left out of the same rows.
     *
     * @param  callable(string, Column): bool  $isAsked
     * @return list<CellsBeside>
     */
    private function beside(string $table, callable $isAsked): array
    {
        $whole = $this->whole($table);
        $conditions = [];
        foreach ($this->database->dialect->columns($this->database->pdo(), $table) as $name => $column) {
            if (in_array($name, $whole, true) || ! $isAsked((string) $name, $column)) {
                continue;
            }
            $where = $this->rows($table, $name);
            if ($where !== false) {
                $conditions[$where ?? ''][] = (string) $name;
            }
        }
        $beside = [];
        foreach ($conditions as $where => $columns) {
            $beside[] = new CellsBeside($table, $columns, (string) $where === '' ? null : (string) $where);
        }

        return $beside;
    }

    private function isLoose(): bool
    {
        return $this->database->dialect instanceof Sql\Sqlite;
    }

    /**
     * Columns that the map reads as something else than a text with references: keys, titles, addresses, the list of
     * media, which names every file.
     *
     * @return list<string>
     */
    private function whole(string $table): array
    {
        $columns = [];
        foreach ($this->map->kinds as $kind) {
            $named = array_diff($kind->columns(), array_keys($kind->fields));
            if ($kind->table === $table) {
                array_push($columns, ...$named, ...$kind->keep);
                foreach ($kind->joins as $join) {
                    array_push($columns, ...array_values($join->on));
                }
            }
            foreach ($kind->joins as $join) {
                if ($join->table === $table) {
                    array_push($columns, ...array_keys($join->on), ...self::ofJoin($join->name, array_values($named)));
                }
            }
        }
        $media = $this->map->media;
        if ($media?->table === $table) {
            array_push($columns, ...$media->columns());
        }
        foreach ($media->joins ?? [] as $join) {
            if ($join->table === $table) {
                array_push($columns, ...array_keys($join->on), ...self::ofJoin($join->name, $media?->columns() ?? []));
            }
        }
        if ($media?->sizes?->table === $table) {
            array_push($columns, $media->sizes->media, ...$media->sizes->path->columns());
        }
        if (($this->map->redirects['table'] ?? null) === $table) {
            // Where a visitor comes from names nothing; where it leads to does.
            $columns[] = $this->map->redirects['from'] ?? '';
        }

        return $columns;
    }

    /**
     * @param  list<string>  $columns
     * @return list<string>
     */
    private static function ofJoin(string $name, array $columns): array
    {
        $own = array_filter($columns, static fn (string $column): bool => str_starts_with($column, "$name."));

        return array_values(array_map(static fn (string $c): string => substr($c, strlen($name) + 1), $own));
    }

    /**
     * The rows in which no kind reads a column.
     *
     * @return string|false|null a condition in SQL, null for all, false for none
     */
    private function rows(string $table, string $column): string|false|null
    {
        $read = [];
        foreach ($this->map->kinds as $kind) {
            $field = $kind->table === $table ? $kind->fields[$column] ?? null : null;
            // Which rows a name in another table decides is not asked here: all are searched, though some are read.
            if ($field !== null && ! $field->isNamedElsewhere()) {
                $where = $this->where($kind, $field);
                if ($where === null) {
                    return false;
                }
                $read[] = $where;
            }
            foreach ($kind->joins as $join) {
                if ($join->table === $table && isset($kind->fields["$join->name.$column"])) {
                    if ($join->where === null) {
                        return false;
                    }
                    // Rows of another language, say, are joined to nothing, and read by nobody.
                    $read[] = $join->where;
                }
            }
        }

        return $read === [] ? null : 'not ('.implode(' or ', array_map(
            static fn (string $where): string => "coalesce(($where), false)",
            $read,
        )).')';
    }

    /** Which rows of a kind's table have a field that is read; null for all. */
    private function where(KindMap $kind, FieldColumn $field): ?string
    {
        $conditions = $kind->where === null ? [] : ["($kind->where)"];
        if ($field->by !== null) {
            $by = $this->database->dialect->text($this->database->dialect->name($field->by));
            $like = static fn (int|string $name): string => str_replace("'", "''", FieldColumn::like((string) $name));
            $names = array_map(
                static fn (int|string $name): string => "$by like '{$like($name)}' escape '!'",
                array_keys($field->rules),
            );
            $conditions[] = '('.implode(' or ', $names).')';
        }

        return $conditions === [] ? null : implode(' and ', $conditions);
    }

    /** @return iterable<Cell|NotSearched> */
    private function stream(CellsBeside $beside): iterable
    {
        $dialect = $this->database->dialect;
        $pdo = $this->database->pdo();
        $table = $beside->table;
        $columns = $dialect->columns($pdo, $table);
        $key = $this->database->key($table);
        $selected = array_map(
            static fn (string $column, int $n): string => $dialect->text($dialect->name($column))." as k$n",
            $key,
            array_keys($key),
        );
        foreach ($beside->columns as $n => $column) {
            $text = $dialect->textual($dialect->name($column), $columns[$column]);
            $size = $dialect->size($text);
            $selected[] = "case when $size <= ".self::PART." then $text end as c$n";
            $selected[] = "case when $size > ".self::PART." then $size end as s$n";
        }
        $long = [];
        $where = $beside->where === null ? '' : " where $beside->where";
        $sql = 'select '.implode(', ', $selected)." from {$dialect->quote($table)}$where";
        foreach ($dialect->stream($pdo, $sql) as $row) {
            $of = array_map(static fn (int $n): string => Text::of($row["k$n"] ?? null), array_keys($key));
            foreach ($beside->columns as $n => $column) {
                if (isset($row["c$n"])) {
                    $text = Text::of($row["c$n"]);
                    if ($text !== '') {
                        yield new Cell($table, $column, implode(' ', $of), $text);
                    }
                } elseif (isset($row["s$n"])) {
                    if (count($long) < self::LONG_ONES) {
                        $long[] = [$column, $of];
                    } else {
                        yield new NotSearched("$table.$column", 'It has too many long values to look into each.');
                    }
                }
            }
        }
        foreach ($long as [$column, $of]) {
            yield from $this->long($table, $columns, $column, $key, $of);
        }
    }

    /**
     * @param  array<string, Column>  $columns
     * @param  list<string>  $key
     * @param  list<string>  $of
     * @return iterable<Cell|NotSearched>
     */
    private function long(string $table, array $columns, string $column, array $key, array $of): iterable
    {
        $dialect = $this->database->dialect;
        $place = "$table.$column ".implode(' ', $of);
        if ($key === []) {
            yield new NotSearched("$table.$column", 'It has long values, and the table has no key to ask for each.');

            return;
        }
        $same = implode(' and ', array_map(
            static fn (string $name): string => $dialect->text($dialect->name($name)).' = ?',
            $key,
        ));
        $text = $dialect->textual($dialect->name($column), $columns[$column]);
        $from = 0;
        $tail = '';
        for ($at = 1; ; $at += self::PART) {
            $value = $this->database
                ->run("select substr($text, $at, ".self::PART.") from {$dialect->quote($table)} where $same", $of)
                ->fetchColumn();
            $part = Text::of($value);
            if ($part === '') {
                return;
            }
            yield new Cell($table, $column, implode(' ', $of), $tail.$part, $from - strlen($tail));
            $from += strlen($part);
            $tail = substr($part, -self::SHARED);
            if ($from > self::LONGEST) {
                yield new NotSearched($place, 'This value is longer than 64 MB; it was searched as far as that.');

                return;
            }
        }
    }
}
