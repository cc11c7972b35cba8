<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Connection;
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
        $media = $this->map->media;
        foreach ($media as $column) {
            if ($column !== null && $column !== $media['table']) {
                $this->database->column((string) $media['table'], $column, 'media');
            }
        }
        $this->key((string) $media['table'], (string) $media['key'], null, 'media');
        foreach (array_diff_key($this->map->redirects ?? [], ['table' => 1]) as $column) {
            if ($column !== null) {
                $this->database->column((string) ($this->map->redirects['table'] ?? ''), $column, 'redirects');
            }
        }
        foreach ($this->map->kinds as $kind) {
            $place = "records.$kind->kind";
            foreach ([...$kind->columns(), ...$kind->keep] as $column) {
                $this->database->column($kind->table, $column, $place);
            }
            $this->key($kind->table, $kind->key, $kind->where, $place);
        }
    }

    /** A key must name one record and be writable as text, or an edit could reach another one. */
    private function key(string $table, string $key, ?string $where, string $place): void
    {
        $column = $this->database->column($table, $key, $place);
        if ($column->isBinary) {
            throw $this->map->wrong(
                "$place.key",
                "the column \"$key\" holds bytes ($column->type), which cannot name a record here. Name a column of "
                    .'text or numbers that is unique.',
            );
        }
        $uniques = $this->database->dialect->uniques($this->database->pdo(), $table);
        if (in_array([$key], $uniques, true)) {
            return;
        }
        foreach ($uniques as $columns) {
            if (in_array($key, $columns, true)) {
                throw $this->map->wrong(
                    "$place.key",
                    "\"$key\" is only one part of the key ("
                        .implode(', ', $columns)
                        .'), so it does not name one record. Name a column that is unique by itself.',
                );
            }
        }
        // A view has no index; then its rows must tell.
        $id = $this->database->dialect->quote($key);
        $twice = $this->database
            ->read(
                "select $id from {$this->database->dialect->quote($table)}"
                    .($where === null ? '' : " where ($where)")
                    ." group by $id having count(*) > 1 limit 1",
                [],
                $place,
            )
            ->fetchColumn();
        if ($twice !== false) {
            throw $this->map->wrong(
                "$place.key",
                "\"$key\" is not unique: more than one row has \""
                    .(is_scalar($twice) ? $twice : '')
                    .'". Name a column that is unique.',
            );
        }
    }
}
