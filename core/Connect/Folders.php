<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** Finds where a bare name of a file lies in a folder that another column of the same row says. */
final readonly class Folders
{
    /** Of the rows with a name, so many must name a file so. */
    private const ENOUGH = 0.8;

    public function __construct(private Samples $samples, private FileLookup $files)
    {
    }

    /**
     * @param  array<string, string|array<string, mixed>>  $rules column → how it is read
     * @return array<string, string|array<string, mixed>> the same, with columns in what comes before bare paths where
     *     that makes more of them files
     */
    public function said(TableProfile $table, array $rules): array
    {
        foreach ($rules as $column => $rule) {
            $below = is_array($rule) ? $rule['below'] ?? null : null;
            if (! is_string($below) || ! isset($table->columns[$column])) {
                continue;
            }
            $folder = $this->folder($table, (string) $column, $below);
            if ($folder !== null) {
                $rules[$column] = [...$rule, 'below' => $folder];
            }
        }

        return $rules;
    }

    private function folder(TableProfile $table, string $name, string $below): ?string
    {
        $columns = array_filter(
            $table->columns,
            static fn (ColumnProfile $c): bool => in_array($c->type, [ColumnType::Text, ColumnType::Number], true)
                && $c->name !== $name
                && $c->values !== []
                && $c->share('~^[\w./-]{1,120}$~u') === 1.0,
        );
        if ($columns === []) {
            return null;
        }
        $others = array_map(strval(...), array_keys($columns));
        $rows = array_values(
            array_filter(
                $this->samples->rows($table->name, [$name, ...$others]),
                static fn (array $row): bool => trim((string) $row[$name]) !== '',
            ),
        );
        $met = array_filter($rows, fn (array $row): bool => $this->files->has($below.trim((string) $row[$name])));
        $best = [count($met), null];
        foreach ($others as $other) {
            $before = [];
            foreach ($rows as $row) {
                $value = trim((string) $row[$other], '/');
                $text = $value === '' ? '' : "$value/".trim((string) $row[$name]);
                foreach ($text === '' ? [] : $this->files->foldersFor($text) as $folder) {
                    $before[$folder] = ($before[$folder] ?? 0) + 1;
                }
            }
            arsort($before);
            $first = array_key_first($before);
            if ($first !== null && $before[$first] > $best[0] && $before[$first] >= self::ENOUGH * count($rows)) {
                $best = [$before[$first], $first.'{'.$other.'}/'];
            }
        }

        return $best[1];
    }
}
