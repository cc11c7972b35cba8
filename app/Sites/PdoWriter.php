<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Connection;
use PDOException;
use Ylema\Change\EditConflict;
use Ylema\Failure;
use Ylema\Sites\RecordChanged;
use Ylema\Sites\Replacement;
use Ylema\Sites\SourceRecord;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\WriteRefused;

/** Writes the records of a content database: compare-and-set, read back, in the database's own transaction. */
final class PdoWriter
{
    /** How many records are written in one statement. */
    private const BATCH = 250;

    /** @var array<string, KindTable> */
    private array $tables = [];

    /** @var array<string, bool> */
    private array $triggered = [];

    /** @var list<string>|null kinds whose records others name by their keys */
    private ?array $named = null;

    public function __construct(private readonly FieldMap $map, private readonly Connection $database)
    {
    }

    /**
     * @param  list<Replacement>  $replacements
     * @return array<int, Failure|null> under the keys of the list
     *
     * @throws SourceUnavailable
     */
    public function replaceMany(string $kind, array $replacements): array
    {
        $map = $this->map->kind($kind);
        foreach ($replacements as $replacement) {
            foreach (array_keys($replacement->fields) as $field) {
                if (! isset($map->fields[$field])) {
                    throw $this->map->wrong("records.$kind.fields", "there is no \"$field\" to write.");
                }
            }
        }
        $results = [];
        // What gets another key is written by itself, so that no two of a batch can be taken for each other.
        $moved = array_filter($replacements, static fn (Replacement $r): bool => $r->moved !== null);
        foreach ($moved as $i => $replacement) {
            $results[$i] = $this->single($map, $replacement);
        }
        foreach (array_chunk(array_diff_key($replacements, $moved), self::BATCH, true) as $batch) {
            try {
                $results += $this->batch($map, $batch);
            } catch (PDOException|WriteRefused) {
                // One of them spoils the statement for all; alone, each shows whether it is the one.
                foreach ($batch as $i => $replacement) {
                    $results[$i] = $this->single($map, $replacement);
                }
            }
        }

        return $results;
    }

    /** @return list<string> the statement for one record, with its values named; or why there would be none */
    public function rehearse(string $kind, Replacement $replacement): array
    {
        $map = $this->map->kind($kind);
        if ($map->isKept || $map->isDistinct) {
            return ["refused: the field map says that it is never written (records.$kind.read_only)"];
        }
        $keys = $this->table($map)->askable([$replacement->key]);
        if ($keys === []) {
            return ["refused: no $kind has the key $replacement->key"];
        }
        [$condition, $values] = $this->table($map)->among($keys);
        $sets = [];
        foreach (array_keys($replacement->fields) as $field) {
            $sets[] = "{$this->name($field)} = :$field";
        }
        foreach ($map->keep as $column) {
            $sets[] = "{$this->name($column)} = {$this->name($column)}";
        }
        $table = $this->database->dialect->quote($map->table);

        return [
            "update $table set ".implode(', ', $sets)." where $condition",
            '    with '.json_encode($values, JSON_UNESCAPED_SLASHES | JSON_INVALID_UTF8_SUBSTITUTE),
        ];
    }

    /** @return list<string> sentences */
    public function stamps(string $kind): array
    {
        $map = $this->map->kind($kind);
        $sentences = [];
        foreach ($this->database->columns($map->table, "records.$kind") as $name => $column) {
            if ($column->stampsItself && ! in_array($name, $map->keep, true) && ! isset($map->fields[$name])) {
                $sentences[] =
                    "The database sets $map->table.$name anew whenever a $kind is written. To leave it as it is, "
                    ."name it in the field map: records.$kind.keep.";
            }
        }
        try {
            $triggers = $this->database->dialect->triggers($this->database->pdo(), $map->table);
        } catch (PDOException $e) {
            throw $this->database->explained($e, "records.$kind");
        }
        if ($triggers !== [] && $map->keep === []) {
            $sentences[] =
                'The database runs '
                .(count($triggers) === 1 ? "the trigger $triggers[0]" : 'the triggers '.implode(', ', $triggers))
                ." whenever a $kind is written; columns that it sets will move. To leave one as it is, "
                ."name it in the field map: records.$kind.keep.";
        }

        return $sentences;
    }

    /** Only the table itself is locked and written, whatever is joined to it. */
    private function table(KindMap $map): KindTable
    {
        return $this->tables[$map->kind] ??= new KindTable($map->alone(), $this->database);
    }

    /**
     * All in one transaction: locked, compared, written, read back.
     *
     * @param  array<int, Replacement>  $batch
     * @return array<int, Failure|null>
     *
     * @throws PDOException|WriteRefused when the database refuses one of them; nothing of the batch is written then
     * @throws SourceUnavailable
     */
    private function batch(KindMap $map, array $batch): array
    {
        $pdo = $this->database->pdo();
        $dialect = $this->database->dialect;
        $dialect->begin($pdo);
        try {
            $keys = array_merge(
                ...array_map(
                    static fn (Replacement $r): array => $r->moved === null ? [$r->key] : [$r->key, $r->moved],
                    array_values($batch),
                ),
            );
            $rows = $this->locked($map, $keys);
            $results = $texts = [];
            foreach ($batch as $i => $replacement) {
                // One that has its other key already was written by a process that was killed before it could say so.
                $row = $rows[$replacement->key] ?? $rows[$replacement->moved ?? $replacement->key] ?? null;
                $own = $row === null ? null : $this->texts($map, $row);
                $hash = $own === null ? null : SourceRecord::hashOf($own);
                $results[$i] = match (true) {
                    $own === null => RecordChanged::gone($map->kind, $replacement->key),
                    // A process that was killed after the write but before saying so left exactly what is wanted.
                    $hash === $replacement->wanted => null,
                    ! isset($rows[$replacement->key]) => RecordChanged::gone($map->kind, $replacement->key),
                    $hash !== $replacement->expected => RecordChanged::since($map->kind, $replacement->key),
                    default => $this->forbidden($map, $replacement, $rows[$replacement->key]) ??
                        self::taken($map, $replacement, $rows) ??
                        self::edit($map, $own, $rows[$replacement->key], $replacement, $texts),
                };
            }
            if ($texts !== []) {
                $left = $this->write($map, $texts);
                $this->readBack($map, $batch, $texts, $rows, $left);
            }
            $dialect->commit($pdo);

            return $results;
        } finally {
            $this->database->close();
        }
    }

    /** One record by itself, so that what is wrong with it is said of it alone. */
    private function single(KindMap $map, Replacement $replacement): ?Failure
    {
        $what = "The $map->kind \"$replacement->key\"";
        for ($try = 1; ; $try++) {
            try {
                return $this->batch($map, [$replacement])[0];
            } catch (WriteRefused $e) {
                return $e;
            } catch (PDOException $e) {
                if (! $this->database->isAway($e)) {
                    return $this->database->refused($e, $what);
                }
                $this->database->forget();
                if ($try === 2) {
                    // It answers again, and goes away on this very record again.
                    $this->database->pdo();

                    return new WriteRefused(
                        $what,
                        'the database ends the connection each time that it is sent. It may be too large for one '
                            .'statement (max_allowed_packet in MySQL and MariaDB)',
                        $e,
                    );
                }
                usleep(200_000);
            }
        }
    }

    /** @param  array<string, string|null>  $row */
    private function forbidden(KindMap $map, Replacement $replacement, array $row): ?WriteRefused
    {
        $isNamed = in_array($map->kind, $this->named ??= $this->map->named(), true);
        foreach (array_keys($replacement->fields) as $field) {
            $rule = $map->fields[$field]->rule($row);
            $why = $rule === null ? null : $map->fixed($field, $rule, $isNamed, (string) $row[$field]);
            if ($why !== null) {
                return new WriteRefused("The $map->kind \"$replacement->key\"", $why);
            }
        }

        return null;
    }

    /** @param  array<string, array<string, string|null>>  $rows key → row */
    private static function taken(KindMap $map, Replacement $replacement, array $rows): ?WriteRefused
    {
        return $replacement->moved !== null && isset($rows[$replacement->moved])
            ? new WriteRefused(
                "The $map->kind \"$replacement->key\"",
                "there is one with the key \"$replacement->moved\" already, and the two cannot be one. Take one of "
                    .'them away on the site',
            )
            : null;
    }

    /**
     * @param  array<string, string>  $own field → text as it is
     * @param  array<string, string|null>  $row as the table has it
     * @param  array<string, array<string, string>>  $texts key → field → whole new text, added to
     */
    private static function edit(
        KindMap $map,
        array $own,
        array $row,
        Replacement $replacement,
        array &$texts,
    ): ?Failure {
        try {
            $changed = [];
            foreach ($replacement->fields as $field => $edits) {
                if ($edits->edits !== []) {
                    $text = $edits->applyTo($own[$field] ?? '');
                    $changed[$field] = $map->fields[$field]->rule($row)?->rawOf($text, (string) $row[$field])
                        ?? throw new WriteRefused(
                            "The $map->kind \"$replacement->key\"",
                            "its $field would be packed in a way that undo could not take back to the byte. Edit it on "
                                .'the site',
                        );
                }
            }
        } catch (EditConflict|WriteRefused $e) {
            return $e;
        }
        if ($changed !== []) {
            $texts[$replacement->key] = $changed;
        }

        return null;
    }

    /**
     * The texts that a record's content hash is made of.
     *
     * @param  array<string, string|null>  $row
     * @return array<string, string> field → text
     */
    private function texts(KindMap $map, array $row): array
    {
        $texts = [];
        foreach ($map->fields as $name => $field) {
            $rule = isset($row[$name]) ? $field->rule($row) : null;
            if ($rule !== null) {
                $texts[$name] = $rule->textOf((string) $row[$name]) ?? (string) $row[$name];
            }
        }

        return $texts;
    }

    /**
     * @param  list<string>  $keys
     * @return array<string, array<string, string|null>> key → row, kept columns among them
     */
    private function locked(KindMap $map, array $keys): array
    {
        $table = $this->table($map);
        $keys = $table->askable($keys);
        $rows = [];
        if ($keys !== []) {
            [$condition, $values] = $table->among($keys);
            $found = $this->database->run(
                $table->select([...$map->ownColumns(), ...$map->keep])
                    ." and $condition"
                    .$this->database->dialect->lock(),
                $values,
            );
            foreach (PdoRecords::fetch($found) as $row) {
                $rows[$map->key->of($row)] = $row;
            }
            $rows = $this->decided($map, $rows, $keys);
        }

        return array_intersect_key($rows, array_flip($keys));
    }

    /**
     * Rows with the columns of other tables by which is decided how they are read. Those are looked at, and not locked.
     *
     * @param  array<string, array<string, string|null>>  $rows key → row
     * @param  non-empty-list<string>  $keys
     * @return array<string, array<string, string|null>>
     */
    private function decided(KindMap $map, array $rows, array $keys): array
    {
        $columns = $map->decidingElsewhere();
        if ($columns === [] || $rows === []) {
            return $rows;
        }
        $joined = new KindTable($map, $this->database);
        [$condition, $values] = $joined->among($keys);
        $found = $this->database->run(
            $joined->select([...$map->key->columns, ...$columns])." and $condition",
            $values,
        );
        foreach (PdoRecords::fetch($found) as $row) {
            $key = $map->key->of($row);
            if (isset($rows[$key])) {
                $rows[$key] += array_intersect_key($row, array_flip($columns));
            }
        }

        return $rows;
    }

    /**
     * @param  non-empty-array<string, array<string, string>>  $texts key → field → text
     * @return array<string, array<string, string|null>> key → row as it was left, where the database says so by itself
     */
    private function write(KindMap $map, array $texts): array
    {
        $rows = [];
        $count = 0;
        if ($this->database->dialect->updatesFromRows()) {
            $groups = [];
            foreach ($texts as $key => $own) {
                $groups[implode(',', array_keys($own))][$key] = $own;
            }
            foreach ($groups as $group) {
                $written = $this->writeRows($map, $group);
                $count += count($written);
                $rows += $written;
            }
        } else {
            $count = $this->writeCases($map, $texts);
        }
        if ($count > count($texts)) {
            throw new WriteRefused(
                "The $map->kind records",
                "their keys name $count rows where they should name ".count($texts),
            );
        }

        // What a trigger does after the statement, it does not say.
        return $this->hasTriggers($map) ? [] : $rows;
    }

    /**
     * @param  non-empty-array<string, array<string, string>>  $texts all with the same fields
     * @return array<string, array<string, string|null>>
     */
    private function writeRows(KindMap $map, array $texts): array
    {
        $table = $this->table($map);
        $fields = array_map(strval(...), array_keys(reset($texts)));
        $sets = $values = [];
        foreach ($fields as $n => $field) {
            $sets[] = "{$this->name($field)} = v.f$n";
        }
        foreach ($map->keep as $column) {
            $sets[] = "{$this->name($column)} = t.{$this->name($column)}";
        }
        $typed = [...$table->keyParameters(), ...array_map($table->parameter(...), $fields)];
        $lists = [];
        foreach ($texts as $key => $own) {
            $lists[] = '('.implode(', ', $typed).')';
            array_push($values, ...$map->key->parts((string) $key) ?? [], ...array_values($own));
        }
        $keys = array_map(static fn (int $n): string => "k$n", array_keys($map->key->columns));
        $names = implode(', ', [...$keys, ...array_map(static fn (int $n): string => "f$n", array_keys($fields))]);
        $back = array_values(array_unique([...$map->ownColumns(), ...$map->keep]));
        $ids = $table->ids();
        $returned = array_map(
            fn (string $c): string => in_array($c, $ids, true) && $table->column($c)->isBinary
                ? "{$this->database->dialect->hex("t.{$this->name($c)}")} as {$this->name($c)}"
                : "t.{$this->name($c)}",
            $back,
        );
        $same = $table->matches(
            array_map(fn (string $c): string => "t.{$this->name($c)}", $map->key->columns),
            array_map(static fn (string $k): string => "v.$k", $keys),
        );
        $written = [];
        $rows = $this->database->run(
            "update {$this->database->dialect->quote($map->table)} t set "
                .implode(', ', $sets)
                .' from (values '
                .implode(', ', $lists)
                .") as v($names) where $same returning "
                .implode(', ', $returned),
            $values,
        );
        foreach (PdoRecords::fetch($rows) as $row) {
            $written[$map->key->of($row)] = $row;
        }

        return $written;
    }

    /** @param  non-empty-array<string, array<string, string>>  $texts */
    private function writeCases(KindMap $map, array $texts): int
    {
        $table = $this->table($map);
        if (count($texts) === 1) {
            // MySQL sees in one assignment what another one before it has set, so a key that changes cannot be asked.
            return $this->writeOne($map, (string) array_key_first($texts), reset($texts));
        }
        $is = $table->matches($table->keyExpressions(), $table->keyParameters());
        $sets = $values = [];
        foreach (array_unique(array_merge(...array_map(array_keys(...), array_values($texts)))) as $field) {
            $cases = '';
            foreach ($texts as $key => $own) {
                if (isset($own[$field])) {
                    $cases .= " when $is then {$table->parameter((string) $field)}";
                    array_push($values, ...[...$map->key->parts((string) $key) ?? [], $own[$field]]);
                }
            }
            $sets[] = "{$this->name((string) $field)} = case$cases else {$this->name((string) $field)} end";
        }
        foreach ($map->keep as $column) {
            // Named in the statement, a column does not stamp itself.
            $sets[] = "{$this->name($column)} = {$this->name($column)}";
        }

        return $this->update($map, $sets, $values, array_map(strval(...), array_keys($texts)));
    }

    /** @param  array<string, string>  $texts field → text */
    private function writeOne(KindMap $map, string $key, array $texts): int
    {
        $sets = [];
        foreach (array_map(strval(...), array_keys($texts)) as $field) {
            $sets[] = "{$this->name($field)} = {$this->table($map)->parameter($field)}";
        }
        foreach ($map->keep as $column) {
            $sets[] = "{$this->name($column)} = {$this->name($column)}";
        }

        return $this->update($map, $sets, array_values($texts), [$key]);
    }

    /**
     * @param  list<string>  $sets
     * @param  list<string|null>  $values
     * @param  non-empty-list<string>  $keys
     */
    private function update(KindMap $map, array $sets, array $values, array $keys): int
    {
        [$condition, $named] = $this->table($map)->among($keys);

        return $this->database
            ->run(
                "update {$this->database->dialect->quote($map->table)} set "
                    .implode(', ', $sets)
                    ." where $condition",
                [...$values, ...$named],
            )
            ->rowCount();
    }

    private function hasTriggers(KindMap $map): bool
    {
        return $this->triggered[$map->table] ??=
            $this->database->dialect->triggers($this->database->pdo(), $map->table) !== [];
    }

    /**
     * @param  array<int, Replacement>  $batch
     * @param  array<string, array<string, string>>  $texts
     * @param  array<string, array<string, string|null>>  $before
     * @param  array<string, array<string, string|null>>  $left key → row, as far as it is known already
     *
     * @throws WriteRefused when the source holds something else than was meant
     */
    private function readBack(KindMap $map, array $batch, array $texts, array $before, array $left): void
    {
        // Under the keys that they have now.
        $keys = $was = [];
        foreach ($batch as $replacement) {
            if (isset($texts[$replacement->key])) {
                $keys[] = $replacement->moved ?? $replacement->key;
                $was[$replacement->moved ?? $replacement->key] = $before[$replacement->key];
            }
        }
        $rows = $left === [] ? $this->locked($map, $keys) : $left;
        foreach ($batch as $replacement) {
            if (! isset($texts[$replacement->key])) {
                continue;
            }
            $row = $rows[$replacement->moved ?? $replacement->key] ?? null;
            // What stands in other tables was not written, and is as it was.
            $row = $row === null ? null : $row + $before[$replacement->key];
            if ($row === null || SourceRecord::hashOf($this->texts($map, $row)) !== $replacement->wanted) {
                throw WriteRefused::notReadBack(
                    "The $map->kind \"$replacement->key\"",
                    'A column that is too short or cannot hold these characters does so, and so does a connection in '
                        .'another character set.',
                );
            }
        }
        $moved = array_values(
            array_filter(
                $keys,
                static fn (string $key): bool => array_intersect_key($rows[$key], array_flip($map->keep)) !==
                    array_intersect_key($was[$key], array_flip($map->keep)),
            ),
        );
        if ($moved !== []) {
            $this->putBack($map, $moved, $was);
        }
    }

    /**
     * A trigger that stamps a column on every update may leave it alone when nothing else is written.
     *
     * @param  non-empty-list<string>  $keys
     * @param  array<string, array<string, string|null>>  $before
     */
    private function putBack(KindMap $map, array $keys, array $before): void
    {
        $table = $this->table($map);
        $is = $table->matches($table->keyExpressions(), $table->keyParameters());
        $sets = $values = [];
        foreach ($map->keep as $column) {
            $sets[] =
                "{$this->name($column)} = case"
                .str_repeat(" when $is then {$table->parameter($column)}", count($keys))
                ." else {$this->name($column)} end";
            foreach ($keys as $record) {
                array_push($values, ...[...$map->key->parts($record) ?? [], $before[$record][$column]]);
            }
        }
        $this->update($map, $sets, $values, $keys);
        $rows = $this->locked($map, $keys);
        foreach ($keys as $record) {
            foreach ($map->keep as $column) {
                if ($rows[$record][$column] !== $before[$record][$column]) {
                    throw new WriteRefused(
                        "The $map->kind \"$record\"",
                        "the database sets $column anew whatever is written, and the field map says to keep it "
                            ."(records.$map->kind.keep). Take it out there, or change its trigger",
                    );
                }
            }
        }
    }

    private function name(string $column): string
    {
        return $this->database->dialect->name($column);
    }
}
