<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\SiteAddresses;

/** Finds the site's list of media: the table whose rows each name a file that exists. */
final readonly class MediaTables
{
    /** So many of a table's sampled rows must name a file. */
    private const ENOUGH = 0.6;

    /**
     * @param  array<string, TableProfile>  $tables
     * @param  list<Relation>  $relations
     */
    public function __construct(
        private array $tables,
        private array $relations,
        private Samples $samples,
        private FileLookup $files,
        private SiteAddresses $addresses,
    ) {
    }

    public function find(): ?MediaTable
    {
        $found = [];
        foreach ($this->tables as $table) {
            if (Hints::say(Hints::PASSING, $table->name) || $table->rows === 0) {
                continue;
            }
            $named = $this->named($table);
            if ($named !== null) {
                $found[$table->name] = $named;
            }
        }
        // Sizes name files as well, and the media they were made of.
        $sizes = [];
        foreach ($this->relations as $relation) {
            $isMany = ! $this->tables[$relation->table]->isUnique([$relation->column]);
            if (
                $isMany
                && isset($found[$relation->table], $found[$relation->to])
                && $relation->table !== $relation->to
            ) {
                $sizes[$relation->to] = [
                    'table' => $relation->table,
                    'media' => $relation->column,
                    'path' => $found[$relation->table]->path,
                ];
                unset($found[$relation->table]);
            }
        }
        $found = array_filter($found, static fn (MediaTable $m): bool => $m->table->id() !== null);
        usort($found, fn (MediaTable $a, MediaTable $b): int => $this->weight($b) <=> $this->weight($a));
        $best = $found[0] ?? null;
        if ($best === null) {
            return null;
        }

        return new MediaTable($best->table, $best->path, $best->files, $best->rows, $sizes[$best->table->name] ?? null);
    }

    /** How much a table looks like a list of media: what it is called, how others tie to it, how many rows it has. */
    private function weight(MediaTable $media): float
    {
        $tied = count(array_filter($this->relations, static fn (Relation $r): bool => $r->to === $media->table->name));
        $called = Hints::say(Hints::MEDIA, $media->table->name) ? 2 : 1;

        return ($media->files / max(1, $media->rows)) * (1 + $tied) * $called * log(2 + $media->table->rows);
    }

    private function named(TableProfile $table): ?MediaTable
    {
        $texts = array_filter(
            $table->columns,
            static fn (ColumnProfile $c): bool => $c->type === ColumnType::Text
                && $c->values !== []
                && $c->share('~[<>\n{]~') === 0.0,
        );
        if ($texts === []) {
            return null;
        }
        $rows = $this->samples->rows($table->name, array_map(strval(...), array_keys($texts)));
        $best = null;
        foreach ($texts as $name => $column) {
            // A list of media has a file a row; what has one now and then has it as an ornament.
            if ($column->share('~\.[a-z0-9]{2,5}(?:[?#].*)?$~i') < self::ENOUGH) {
                continue;
            }
            foreach ([null, ...array_map(strval(...), array_keys($texts))] as $folder) {
                $said = $folder === $name ? null : $this->said($rows, $name, $folder);
                if ($said !== null && ($best === null || $said[1] > $best[1])) {
                    $best = $said;
                }
            }
        }

        return $best === null || $best[1] < self::ENOUGH * count($rows)
            ? null
            : new MediaTable($table, $best[0], $best[1], count($rows));
    }

    /**
     * @param  list<array<string, string|null>>  $rows
     * @return array{string, int}|null a path with columns in braces, and how many of the rows it makes a file of
     */
    private function said(array $rows, string $name, ?string $folder): ?array
    {
        $before = [];
        foreach ($rows as $row) {
            $text = $folder === null ? (string) $row[$name] : trim((string) $row[$folder], '/').'/'.$row[$name];
            $whole =
                $folder === null && preg_match('~^(?:https?:)?/~i', $text) === 1
                    ? $this->addresses->locate($text)?->path
                    : null;
            $folders =
                $whole !== null && $this->files->has($whole)
                    ? [str_starts_with($text, '/') && $whole === ltrim($text, '/') ? '' : "\0"]
                    : $this->files->foldersFor($text);
            foreach (array_unique($folders) as $one) {
                $before[$one] = ($before[$one] ?? 0) + 1;
            }
        }
        if ($before === []) {
            return null;
        }
        arsort($before);
        $first = (string) array_key_first($before);
        $column = $folder === null ? '{'.$name.'}' : '{'.$folder.'}/{'.$name.'}';

        return [$first === "\0" ? $column : $first.$column, $before[$first]];
    }
}
