<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Column;
use App\Sites\Sql\Connection;
use DateTimeImmutable;
use Generator;
use PDO;
use PDOException;
use PDOStatement;
use Ylema\Change\EditConflict;
use Ylema\Failure;
use Ylema\Reading\Rules;
use Ylema\Sites\ContentSource;
use Ylema\Sites\KeyRange;
use Ylema\Sites\MediaRow;
use Ylema\Sites\NewMedia;
use Ylema\Sites\RecordChanged;
use Ylema\Sites\Replacement;
use Ylema\Sites\SourceField;
use Ylema\Sites\SourceRecord;
use Ylema\Sites\SourceRedirect;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\WriteRefused;

/** A content database behind PDO (PostgreSQL, MySQL, MariaDB, SQLite), read and written by its field map. */
final class PdoContentSource implements ContentSource
{
    /** How many records are asked for, or written, in one statement. */
    private const BATCH = 250;

    private readonly Connection $database;

    private readonly PdoMedia $list;

    private readonly PdoRedirects $redirects;

    private readonly Rules $rules;

    public function __construct(private readonly FieldMap $map, string $dsn, string $user, string $password)
    {
        $this->database = new Connection($map, $dsn, $user, $password);
        $this->list = new PdoMedia($map, $this->database);
        $this->redirects = new PdoRedirects($map, $this->database);
        $this->rules = $map->rules();
    }

    /** @throws FieldMapError|SourceUnavailable when the database is not as the map says */
    public function check(): void
    {
        (new SourceCheck($this->map, $this->database))->run();
    }

    public function kinds(): array
    {
        return array_keys($this->map->kinds);
    }

    public function count(string $kind): int
    {
        $map = $this->map->kind($kind);
        $count = $this->database
            ->read("select count(*) from {$this->id($map->table)}{$this->where($map)}", [], "records.$kind")
            ->fetchColumn();

        return is_numeric($count) ? (int) $count : 0;
    }

    public function ranges(string $kind, int $size): iterable
    {
        $map = $this->map->kind($kind);
        $key = $this->id($map->key);
        $size = max(1, $size);
        // Every size-th key is the end of a range; the last range is open, so that records added meanwhile are read
        // too.
        $ends = $this->database->read(
            "select k from (select $key as k, row_number() over (order by $key) as n from "
                ."{$this->id($map->table)}{$this->where($map)}) as numbered where n % $size = 0 order by n",
            [],
            "records.$kind",
        );
        $after = null;
        while (($end = $ends->fetchColumn()) !== false) {
            $end = self::text($end);
            yield new KeyRange($after, $end);
            $after = $end;
        }
        yield new KeyRange($after, null);
    }

    public function records(string $kind, KeyRange $range): iterable
    {
        $map = $this->map->kind($kind);
        $key = $this->id($map->key);
        $parameter = $this->database->dialect->parameter($this->keyColumn($map));
        $conditions = $map->where === null ? [] : ["({$map->where})"];
        $values = [];
        foreach ([['>', $range->after], ['<=', $range->to]] as [$sign, $value]) {
            if ($value !== null) {
                $conditions[] = "$key $sign $parameter";
                $values[] = $value;
            }
        }
        $rows = $this->database->read(
            $this->select($map, $map->columns())
                .($conditions === [] ? '' : ' where '.implode(' and ', $conditions))
                ." order by $key",
            $values,
            "records.$kind",
        );
        foreach (self::fetch($rows) as $row) {
            yield $this->record($map, $row);
        }
    }

    public function find(string $kind, array $keys): iterable
    {
        $map = $this->map->kind($kind);
        foreach (array_chunk($this->askable($map, $keys), self::BATCH) as $chunk) {
            $found = self::fetch(
                $this->database->read(...[...$this->selection($map, $map->columns(), $chunk, ''), "records.$kind"]),
            );
            foreach ($found as $row) {
                $record = $this->record($map, $row);
                // A collation may take one key for another; a record is asked for by exactly its own.
                if (in_array($record->key, $chunk, true)) {
                    yield $record;
                }
            }
        }
    }

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
        foreach (array_chunk($replacements, self::BATCH, true) as $batch) {
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

    public function media(): iterable
    {
        return $this->list->all();
    }

    public function findMedia(array $ids): iterable
    {
        return $this->list->find($ids);
    }

    public function addMedia(NewMedia|MediaRow $media): MediaRow
    {
        return $this->list->add($media);
    }

    public function mediaRow(string $id): ?MediaRow
    {
        return $this->list->row($id);
    }

    public function mediaMadeFrom(NewMedia $media): ?MediaRow
    {
        return $this->list->madeFrom($media);
    }

    public function changeMedia(string $id, array $before, array $after): void
    {
        $this->list->change($id, $before, $after);
    }

    public function removeMedia(MediaRow $row): void
    {
        $this->list->remove($row);
    }

    public function removeAllMedia(array $rows): void
    {
        $this->list->removeAll($rows);
    }

    public function addAllMedia(array $rows): void
    {
        $this->list->addAll($rows);
    }

    public function mediaRows(array $ids): iterable
    {
        return $this->list->rows($ids);
    }

    public function keepsRedirects(): bool
    {
        return $this->map->redirects !== null;
    }

    public function redirects(): iterable
    {
        return $this->redirects->all();
    }

    public function redirectsFrom(array $spellings): array
    {
        return $this->redirects->from($spellings);
    }

    public function addRedirect(SourceRedirect $redirect): void
    {
        $this->redirects->add($redirect);
    }

    public function removeRedirect(SourceRedirect $redirect): void
    {
        $this->redirects->remove($redirect);
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
            $rows = $this->locked($map, array_values(array_map(static fn (Replacement $r): string => $r->key, $batch)));
            $results = $texts = [];
            foreach ($batch as $i => $replacement) {
                $own = isset($rows[$replacement->key]) ? $this->texts($map, $rows[$replacement->key]) : null;
                $hash = $own === null ? null : SourceRecord::hashOf($own);
                $results[$i] = match (true) {
                    $own === null => RecordChanged::gone($map->kind, $replacement->key),
                    // A process that was killed after the write but before saying so left exactly what is wanted.
                    $hash === $replacement->wanted => null,
                    $hash !== $replacement->expected => RecordChanged::since($map->kind, $replacement->key),
                    default => $this->edit($own, $replacement, $texts),
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

    /**
     * @param  array<string, string>  $own field → text as it is
     * @param  array<string, array<string, string>>  $texts key → field → whole new text, added to
     */
    private function edit(array $own, Replacement $replacement, array &$texts): ?Failure
    {
        try {
            $changed = [];
            foreach ($replacement->fields as $field => $edits) {
                if ($edits->edits !== []) {
                    $changed[$field] = $edits->applyTo($own[$field] ?? '');
                }
            }
        } catch (EditConflict $e) {
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
        return array_filter(array_intersect_key($row, $map->fields), is_string(...));
    }

    /**
     * @param  list<string>  $keys
     * @return array<string, array<string, string|null>> key → row, kept columns among them
     */
    private function locked(KindMap $map, array $keys): array
    {
        $keys = $this->askable($map, $keys);
        $rows = [];
        if ($keys !== []) {
            $entries = self::fetch(
                $this->database->run(
                    ...$this->selection(
                        $map,
                        [...$map->columns(), ...$map->keep],
                        $keys,
                        $this->database->dialect->lock(),
                    ),
                ),
            );
            foreach ($entries as $row) {
                $rows[(string) $row[$map->key]] = $row;
            }
        }

        return array_intersect_key($rows, array_flip($keys));
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
        $columns = $this->database->columns($map->table, "records.$map->kind");
        $fields = array_map(strval(...), array_keys(reset($texts)));
        $sets = $values = [];
        foreach ($fields as $n => $field) {
            $sets[] = "{$this->id($field)} = v.f$n";
        }
        foreach ($map->keep as $column) {
            $sets[] = "{$this->id($column)} = t.{$this->id($column)}";
        }
        $typed = [
            $this->database->dialect->parameter($this->keyColumn($map)),
            ...array_map(
                fn (string $f): string => $this->database->dialect->parameter($columns[$f] ?? new Column('text')),
                $fields,
            ),
        ];
        $lists = [];
        foreach ($texts as $key => $own) {
            $lists[] = '('.implode(', ', $lists === [] ? $typed : array_fill(0, count($typed), '?')).')';
            array_push($values, (string) $key, ...array_values($own));
        }
        $names = implode(', ', ['k', ...array_map(static fn (int $n): string => "f$n", array_keys($fields))]);
        $back = implode(
            ', ',
            array_map(
                fn (string $c): string => 't.'.$this->id($c),
                array_values(array_unique([...$map->columns(), ...$map->keep])),
            ),
        );
        $written = [];
        foreach (
            self::fetch(
                $this->database->run(
                    "update {$this->id($map->table)} t set "
                        .implode(', ', $sets)
                        .' from (values '
                        .implode(', ', $lists)
                        .") as v($names) where t.{$this->id($map->key)} = v.k returning $back",
                    $values,
                ),
            ) as $row
        ) {
            $written[(string) $row[$map->key]] = $row;
        }

        return $written;
    }

    /** @param  non-empty-array<string, array<string, string>>  $texts */
    private function writeCases(KindMap $map, array $texts): int
    {
        $columns = $this->database->columns($map->table, "records.$map->kind");
        $fields = array_unique(array_merge(...array_map(array_keys(...), array_values($texts))));
        $keyParameter = $this->database->dialect->parameter($this->keyColumn($map));
        $key = $this->id($map->key);
        $sets = $values = [];
        foreach ($fields as $field) {
            $cases = '';
            $parameter = $this->database->dialect->parameter($columns[$field] ?? new Column('text'));
            foreach ($texts as $record => $own) {
                if (isset($own[$field])) {
                    $cases .= " when $keyParameter then $parameter";
                    array_push($values, (string) $record, $own[$field]);
                }
            }
            $sets[] = "{$this->id((string) $field)} = case $key$cases else {$this->id((string) $field)} end";
        }
        foreach ($map->keep as $column) {
            // Named in the statement, a column does not stamp itself.
            $sets[] = "{$this->id($column)} = {$this->id($column)}";
        }
        [$condition, $keys] = $this->among($map, array_map(strval(...), array_keys($texts)));

        return $this->database
            ->run("update {$this->id($map->table)} set ".implode(', ', $sets)." where $condition", [
                ...$values,
                ...$keys,
            ])
            ->rowCount();
    }

    /** @var array<string, bool> */
    private array $triggered = [];

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
        $keys = array_map(strval(...), array_keys($texts));
        $rows = $left === [] ? $this->locked($map, $keys) : $left;
        foreach ($batch as $replacement) {
            if (! isset($texts[$replacement->key])) {
                continue;
            }
            $row = $rows[$replacement->key] ?? null;
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
                static fn (string $key): bool => array_intersect_key($rows[$key], array_flip($map->keep))
                    !== array_intersect_key($before[$key], array_flip($map->keep)),
            ),
        );
        if ($moved !== []) {
            $this->putBack($map, $moved, $before);
        }
    }

    /**
     * A trigger that stamps a column on every update may leave it alone when nothing else is written.
     *
     * @param  list<string>  $keys
     * @param  array<string, array<string, string|null>>  $before
     */
    private function putBack(KindMap $map, array $keys, array $before): void
    {
        $columns = $this->database->columns($map->table, "records.$map->kind");
        $key = $this->id($map->key);
        $keyParameter = $this->database->dialect->parameter($this->keyColumn($map));
        $sets = $values = [];
        foreach ($map->keep as $column) {
            $parameter = $this->database->dialect->parameter($columns[$column] ?? new Column('text'));
            $sets[] =
                "{$this->id($column)} = case $key"
                .str_repeat(" when $keyParameter then $parameter", count($keys))
                ." else {$this->id($column)} end";
            foreach ($keys as $record) {
                array_push($values, $record, $before[$record][$column]);
            }
        }
        [$condition, $named] = $this->among($map, $keys);
        $this->database->run("update {$this->id($map->table)} set ".implode(', ', $sets)." where $condition", [
            ...$values,
            ...$named,
        ]);
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

    /** @param  array<string, string|null>  $row */
    private function record(KindMap $map, array $row): SourceRecord
    {
        $texts = array_map(strval(...), $row);
        $fields = [];
        foreach ($map->fields as $name => $field) {
            if (! isset($row[$name])) {
                continue;
            }
            $target =
                $field->targetFrom === null
                    ? $field->target
                    : $field->targetFrom['kinds'][$texts[$field->targetFrom['column']] ?? ''] ?? null;
            $fields[] = new SourceField($name, $texts[$name], $field->notation, $this->rulesOf($field, $target));
        }
        $facts = array_map(
            static fn (string $column): string|int|null => preg_match(
                '~^-?[1-9]\d{0,17}$|^0$~D',
                $row[$column] ?? '',
            ) === 1
                ? (int) $row[$column]
                : $row[$column] ?? null,
            $map->facts,
        );
        if ($map->box !== null) {
            [$width, $height] = [(int) ($texts[$map->box[0]] ?? 0), (int) ($texts[$map->box[1]] ?? 0)];
            $facts['Box'] = $width > 0 && $height > 0 ? "$width × $height" : null;
        }
        $fill = static fn (string $template, ?callable $say = null): string => preg_replace_callback(
            '~\{(\w+)\}~',
            static fn (array $m): string => $say === null ? $texts[$m[1]] ?? '' : $say($texts[$m[1]] ?? ''),
            $template,
        ) ?? $template;

        return new SourceRecord(
            $map->kind,
            $texts[$map->key],
            $fill($map->title, self::said(...)),
            $map->address === null ? null : ltrim($fill($map->address), '/'),
            $map->states->of($texts, new DateTimeImmutable()),
            $fields,
            $facts,
        );
    }

    /** A moment in a title is said to the minute, and midnight as its day. */
    private static function said(string $value): string
    {
        $moment = '~^(\d{4}-\d\d-\d\d)[ T](\d\d:\d\d)(?::\d\d(?:\.\d+)?)?(?:Z|[+-]\d\d(?::?\d\d)?)?$~D';

        return preg_match($moment, $value, $m) === 1 ? $m[1].($m[2] === '00:00' ? '' : " $m[2]") : $value;
    }

    /** @var array<string, Rules> */
    private array $fieldRules = [];

    private function rulesOf(FieldRule $field, ?string $target): Rules
    {
        return $this->fieldRules[spl_object_id($field).'>'.$target] ??= $this->rules->with(
            paths: $field->paths,
            role: $field->role,
            target: $target,
        );
    }

    /** @param  list<string>  $columns */
    private function select(KindMap $map, array $columns): string
    {
        return 'select '
            .implode(', ', array_map($this->id(...), array_values(array_unique($columns))))
            ." from {$this->id($map->table)}";
    }

    /**
     * @param  list<string>  $columns
     * @param  non-empty-list<string>  $keys
     * @return array{string, list<string>} statement and values
     */
    private function selection(KindMap $map, array $columns, array $keys, string $tail): array
    {
        [$condition, $values] = $this->among($map, $keys);

        return [
            $this->select($map, $columns)
            .' where '
            .($map->where === null ? '' : "({$map->where}) and ")
            .$condition
            .$tail,
            $values,
        ];
    }

    /**
     * Keys are compared with their own type, so that the source's index is used.
     *
     * @param  list<string>  $keys
     * @return array{string, list<string>}
     */
    private function among(KindMap $map, array $keys): array
    {
        $parameter = $this->database->dialect->parameter($this->keyColumn($map));

        return ["{$this->id($map->key)} in (".implode(', ', array_fill(0, count($keys), $parameter)).')', $keys];
    }

    private function keyColumn(KindMap $map): Column
    {
        return $this->database->column($map->table, $map->key, "records.$map->kind");
    }

    /**
     * A word cannot name a record whose key is a number, and some databases refuse the question.
     *
     * @param  list<string>  $keys
     * @return list<string>
     */
    private function askable(KindMap $map, array $keys): array
    {
        return $this->keyColumn($map)->isNumber
            ? array_values(
                array_filter($keys, static fn (string $key): bool => preg_match('~^-?\d{1,19}$~D', $key) === 1),
            )
            : array_values(
                array_filter(
                    $keys,
                    static fn (string $key): bool => mb_check_encoding($key, 'UTF-8') && ! str_contains($key, "\0"),
                ),
            );
    }

    /** @return Generator<array<string, string|null>> */
    private static function fetch(PDOStatement $rows): Generator
    {
        while (is_array($row = $rows->fetch(PDO::FETCH_ASSOC))) {
            $texts = [];
            foreach ($row as $name => $value) {
                $texts[(string) $name] = $value === null ? null : self::text($value);
            }
            yield $texts;
        }
    }

    private static function text(mixed $value): string
    {
        return Text::of($value);
    }

    private function where(KindMap $map): string
    {
        return $map->where === null ? '' : " where {$map->where}";
    }

    private function id(string $name): string
    {
        return $this->database->dialect->quote($name);
    }
}
