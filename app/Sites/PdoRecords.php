<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Connection;
use Generator;
use PDO;
use PDOStatement;
use Ylema\Sites\KeyRange;
use Ylema\Sites\SourceRecord;

/** The records of a content database, read by its field map. */
final class PdoRecords
{
    /** How many records are asked for in one statement, or completed by what others say of themselves. */
    private const BATCH = 250;

    /** A page below a page below a page: deeper than this, they go round in circles. */
    private const DEEPEST = 40;

    /** Records whose titles and addresses are kept for those below them. */
    private const KEPT = 20_000;

    /** @var array<string, KindTable> */
    private array $tables = [];

    /** @var array<string, array<string, array{address: string, title: string}>> kind → key → what it says of itself */
    private array $said = [];

    public function __construct(
        private readonly FieldMap $map,
        private readonly Connection $database,
        private readonly RecordMaker $maker,
    ) {
    }

    public function table(string $kind): KindTable
    {
        return $this->tables[$kind] ??= new KindTable($this->map->kind($kind), $this->database);
    }

    public function count(string $kind, ?int $most = null): int
    {
        $count = $this->database->read($this->table($kind)->count($most), [], "records.$kind")->fetchColumn();

        return is_numeric($count) ? (int) $count : 0;
    }

    /** @return Generator<SourceRecord> */
    public function first(string $kind, int $count): Generator
    {
        $table = $this->table($kind);
        $rows = $this->database->read(
            $table->select($table->map->columns()).$table->order().' limit '.max(1, $count),
            [],
            "records.$kind",
        );
        yield from $this->records($table->map, iterator_to_array(self::fetch($rows), false));
    }

    /** @return Generator<KeyRange> */
    public function ranges(string $kind, int $size): Generator
    {
        $key = $this->map->kind($kind)->key;
        // Every size-th key is the end of a range; the last range is open, so that records added meanwhile are read
        // too.
        $ends = $this->database->read($this->table($kind)->ends(max(1, $size)), [], "records.$kind");
        $after = null;
        foreach (self::fetch($ends) as $row) {
            $end = $key->of($row);
            yield new KeyRange($after, $end);
            $after = $end;
        }
        yield new KeyRange($after, null);
    }

    /** @return Generator<SourceRecord> */
    public function within(string $kind, KeyRange $range): Generator
    {
        $table = $this->table($kind);
        [$condition, $values] = $table->within($range);
        $rows = $this->database->read(
            $table->select($table->map->columns()).$condition.$table->order(),
            $values,
            "records.$kind",
        );
        $batch = [];
        foreach (self::fetch($rows) as $row) {
            $batch[] = $row;
            if (count($batch) === self::BATCH) {
                yield from $this->records($table->map, $batch);
                $batch = [];
            }
        }
        yield from $this->records($table->map, $batch);
    }

    /**
     * @param  list<string>  $keys
     * @return Generator<SourceRecord>
     */
    public function find(string $kind, array $keys): Generator
    {
        $table = $this->table($kind);
        foreach (array_chunk($table->askable($keys), self::BATCH) as $chunk) {
            $rows = iterator_to_array($this->rows($table, $table->map->columns(), $chunk), false);
            foreach ($this->records($table->map, $rows) as $record) {
                // A collation may take one key for another; a record is asked for by exactly its own.
                if (in_array($record->key, $chunk, true)) {
                    yield $record;
                }
            }
        }
    }

    /**
     * @param  list<string>  $columns
     * @param  non-empty-list<string>  $keys
     * @return Generator<array<string, string|null>>
     */
    private function rows(KindTable $table, array $columns, array $keys): Generator
    {
        [$condition, $values] = $table->among($keys);

        return self::fetch(
            $this->database->read($table->select($columns)." and $condition", $values, "records.{$table->map->kind}"),
        );
    }

    /** @return Generator<array<string, string|null>> */
    public static function fetch(PDOStatement $rows): Generator
    {
        while (is_array($row = $rows->fetch(PDO::FETCH_ASSOC))) {
            $texts = [];
            foreach ($row as $name => $value) {
                $texts[(string) $name] = $value === null ? null : Text::of($value);
            }
            yield $texts;
        }
    }

    /**
     * @param  list<array<string, string|null>>  $rows
     * @return Generator<SourceRecord>
     */
    private function records(KindMap $map, array $rows): Generator
    {
        if (array_sum(array_map(count(...), $this->said)) > self::KEPT) {
            $this->said = [];
        }
        $this->ask($map, $rows, 0);
        foreach ($rows as $row) {
            yield $this->maker->record($map, $row, $this->said);
        }
    }

    /**
     * Finds out what the records above these say of themselves, one question a level.
     *
     * @param  list<array<string, string|null>>  $rows
     */
    private function ask(KindMap $map, array $rows, int $depth): void
    {
        foreach (self::relations($map) as $join) {
            $kind = (string) $join->kind;
            $wanted = [];
            foreach ($rows as $row) {
                $key = $row[$join->keyColumn()] ?? '';
                if ($key !== '' && ! isset($this->said[$kind][$key])) {
                    $wanted[$key] = true;
                }
            }
            if ($wanted === [] || $depth >= self::DEEPEST) {
                continue;
            }
            $table = $this->table($kind);
            $columns = self::naming($table->map);
            foreach (array_chunk($table->askable(array_map(strval(...), array_keys($wanted))), self::BATCH) as $chunk) {
                $above = iterator_to_array($this->rows($table, $columns, $chunk), false);
                // Until they are known, so that who stands above himself is not asked for ever.
                foreach ($chunk as $key) {
                    $this->said[$kind][$key] ??= ['address' => '', 'title' => ''];
                }
                $this->ask($table->map, $above, $depth + 1);
                foreach ($above as $row) {
                    $this->said[$kind][$table->map->key->of($row)] = $this->maker->named(
                        $table->map,
                        $row,
                        $this->said,
                    );
                }
            }
        }
    }

    /** @return list<Join> the joined records whose title or address is wanted */
    private static function relations(KindMap $map): array
    {
        $joins = [];
        foreach ([$map->title, ...$map->addresses] as $template) {
            foreach ($template->columns() as $column) {
                $join = $map->relation($column);
                if ($join !== null) {
                    $joins[$join->name] = $join;
                }
            }
        }

        return array_values($joins);
    }

    /** @return list<string> the columns that a record needs to say its title and address */
    private static function naming(KindMap $map): array
    {
        $columns = $map->key->columns;
        foreach ([$map->title, ...$map->addresses] as $template) {
            foreach ($template->columns() as $column) {
                $columns[] = $map->relation($column)?->keyColumn() ?? $column;
            }
        }

        return array_values(array_unique($columns));
    }
}
