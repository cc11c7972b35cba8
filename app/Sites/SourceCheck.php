<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Connection;
use PDO;
use Ylema\Sites\SourceUnavailable;

/** Whether a content database is as its field map says, asked before anything is read from it. */
final readonly class SourceCheck
{
    public function __construct(private FieldMap $map, private Connection $database)
    {
    }

    /** @throws FieldMapError|SourceUnavailable for the first thing that is wrong */
    public function run(): void
    {
        $this->media();
        foreach (array_diff_key($this->map->redirects ?? [], ['table' => 1]) as $column) {
            if ($column !== null) {
                $this->database->column((string) ($this->map->redirects['table'] ?? ''), $column, 'redirects');
            }
        }
        foreach ($this->map->kinds as $kind) {
            if ($kind->isOfFiles()) {
                continue;
            }
            $place = "records.$kind->kind";
            $this->database->columns($kind->table, $place);
            $table = new JoinedTable($this->database, $kind->table, $kind->where, $kind->joins, $place);
            foreach ([...$kind->columns(), ...$kind->keep] as $column) {
                $table->column($column);
            }
            $this->joins($kind->joins, $table, $place);
            if (! $kind->isDistinct) {
                $this->key($kind->table, $kind->key->columns, $kind->where, $place);
            }
        }
    }

    /** @throws FieldMapError|SourceUnavailable */
    private function media(): void
    {
        $media = $this->map->media;
        if ($media === null) {
            return;
        }
        $table = new JoinedTable($this->database, $media->table, $media->where, $media->joins, 'media');
        foreach ([...$media->columns(), $media->column('width'), $media->column('height')] as $column) {
            if ($column !== null) {
                $table->column($column);
            }
        }
        $this->joins($media->joins, $table, 'media');
        $this->key($media->table, [$media->key], $media->where, 'media');
        if ($media->sizes !== null) {
            $sizes = new JoinedTable($this->database, $media->sizes->table, $media->sizes->where, [], 'media.sizes');
            array_map($sizes->column(...), [$media->sizes->media, ...$media->sizes->path->columns()]);
        }
    }

    /**
     * A row must be joined to one row at most, or a record would be read more than once.
     *
     * @param  array<string, Join>  $joins
     */
    private function joins(array $joins, JoinedTable $table, string $place): void
    {
        foreach ($joins as $join) {
            $on = array_map(strval(...), array_keys($join->on));
            foreach ($join->on as $theirs => $ours) {
                $this->database->column($join->table, $theirs, $place, "$join->name.$theirs");
                $table->column($ours);
            }
            if ($this->isUnique($join->table, $on)) {
                continue;
            }
            $twice = $this->twice($join->table, $on, $join->where, $place);
            if ($twice !== null) {
                throw $this->map->wrong(
                    "$place.joins.$join->name",
                    "more than one row of \"$join->table\" belongs to one record ("
                        .implode(', ', $on)
                        ." is \"$twice\" in two or more). Narrow it down by a \"where\", or make its rows a kind of "
                        .'their own that is "part_of" this one.',
                );
            }
        }
    }

    /**
     * A key must name one record and be writable as text, or an edit could reach another one.
     *
     * @param  non-empty-list<string>  $key
     */
    private function key(string $table, array $key, ?string $where, string $place): void
    {
        foreach ($key as $name) {
            $column = $this->database->column($table, $name, $place);
            if ($column->isFloating) {
                throw $this->map->wrong(
                    "$place.key",
                    "the column \"$name\" holds numbers that are rounded ($column->type), so that two of them may look "
                        .'alike. Name a column of whole numbers or of text that is unique.',
                );
            }
        }
        if ($this->isUnique($table, $key)) {
            return;
        }
        $uniques = $this->database->dialect->uniques($this->database->pdo(), $table);
        foreach ($uniques as $columns) {
            if (count($columns) > count($key) && array_diff($key, $columns) === []) {
                throw $this->map->wrong(
                    "$place.key",
                    '"'
                        .implode(', ', $key)
                        .'" is only one part of the key ('
                        .implode(', ', $columns)
                        .'), so it does not name one record. Name '
                        .($place === 'media'
                            ? 'a column that is unique by itself.'
                            : 'all of them: key: ['.implode(', ', $columns).'].'),
                );
            }
        }
        // A view has no index; then its rows must tell.
        $twice = $this->twice($table, $key, $where, $place);
        if ($twice !== null) {
            throw $this->map->wrong(
                "$place.key",
                '"'
                    .implode(', ', $key)
                    ."\" is not unique: more than one row has \"$twice\". Name a column that is unique.",
            );
        }
        $this->hasNone($table, $key, $where, $place);
    }

    /** @param  list<string>  $columns */
    private function isUnique(string $table, array $columns): bool
    {
        foreach ($this->database->dialect->uniques($this->database->pdo(), $table) as $unique) {
            if (array_diff($unique, $columns) === []) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param  list<string>  $columns
     * @return string|null what stands in them in more than one row
     */
    private function twice(string $table, array $columns, ?string $where, string $place): ?string
    {
        $ids = array_map($this->database->dialect->name(...), $columns);
        $list = implode(', ', $ids);
        $set = implode(' and ', array_map(static fn (string $id): string => "$id is not null", $ids));
        $row = $this->database
            ->read(
                "select $list from {$this->database->dialect->quote($table)} where $set"
                    .($where === null ? '' : " and ($where)")
                    ." group by $list having count(*) > 1 limit 1",
                [],
                $place,
            )
            ->fetch(PDO::FETCH_NUM);

        return is_array($row) ? implode(', ', array_map(Text::of(...), $row)) : null;
    }

    /** @param  non-empty-list<string>  $key */
    private function hasNone(string $table, array $key, ?string $where, string $place): void
    {
        foreach ($key as $name) {
            $none = $this->database
                ->read(
                    "select 1 from {$this->database->dialect->quote($table)} where {$this->database->dialect->name(
                        $name,
                    )} "
                        .'is null'
                        .($where === null ? '' : " and ($where)")
                        .' limit 1',
                    [],
                    $place,
                )
                ->fetchColumn();
            if ($none !== false) {
                throw $this->map->wrong(
                    "$place.key",
                    "there are rows whose \"$name\" is empty (NULL), which nothing could name. Leave them out by a "
                        .'"where", or name another column.',
                );
            }
        }
    }
}
