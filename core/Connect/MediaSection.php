<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** What a map says of the site's list of media: its table, its words, its sizes. */
final readonly class MediaSection
{
    /** @var array{table: string, on: string, where: string|null, columns: array<string, string>}|null */
    private ?array $words;

    /**
     * @param  array<string, TableProfile>  $tables
     * @param  list<Relation>  $ties
     */
    public function __construct(private array $tables, private MediaTable $media, array $ties)
    {
        $this->words = $this->wordsOf($media, $ties);
    }

    /** @return list<string> tables that are read as what they are, and whose rows are no records */
    public function tables(): array
    {
        return array_values(array_filter([
            $this->media->table->name,
            $this->media->sizes['table'] ?? null,
            $this->words['table'] ?? null,
        ]));
    }

    /**
     * @param  list<string>  $ways addresses at which the site's own code gives media out by their ids
     * @return array<string, mixed> as a map says it
     */
    public function said(array $ways): array
    {
        [$media, $words, $table] = [$this->media, $this->words, $this->media->table];
        $bare = preg_match('~^\{(\w+)\}$~', $media->path, $found) === 1 ? $found[1] : $media->path;
        $section = [
            'table' => $table->name,
            'key' => $table->id(),
            'path' => $bare,
            ...array_diff(self::words($table), [$bare]),
        ];
        foreach (['width', 'height'] as $side) {
            foreach ($table->columns as $column) {
                if (
                    ! isset($section[$side])
                    && preg_match("~(?:^|_)(?:$side|$side[0])$~i", $column->name) === 1
                    && $column->type === ColumnType::Number
                ) {
                    $section[$side] = $column->name;
                }
            }
        }
        if ($words !== null) {
            $section['joins'] = [
                'words' => array_filter(
                    ['table' => $words['table'], 'on' => [$words['on'] => $table->id()], 'where' => $words['where']],
                    static fn (mixed $v): bool => $v !== null,
                ),
            ];
            foreach ($words['columns'] as $word => $column) {
                $section[$word] ??= "words.$column";
            }
        }
        if ($media->joins !== []) {
            $joins = is_array($section['joins'] ?? null) ? $section['joins'] : [];
            $section['joins'] = [...$joins, ...$media->joins];
        }
        if ($media->sizes !== null) {
            $section['sizes'] = $media->sizes;
        } elseif ($media->ownSizes !== []) {
            $section['sizes'] = $media->ownSizes;
        }
        if ($ways !== []) {
            $section['page'] = count($ways) === 1 ? $ways[0] : $ways;
        }

        return $section;
    }

    /** @return array<string, string> title, alt, caption or credit → column */
    public static function words(TableProfile $table): array
    {
        $words = [];
        foreach (Hints::WORDS as $word => $hint) {
            foreach ($table->columns as $column) {
                if (
                    $column->type === ColumnType::Text
                    && Hints::say($hint, $column->called())
                    && ! in_array($column->name, $words, true)
                ) {
                    $words[$word] ??= $column->name;
                }
            }
        }

        return $words;
    }

    /**
     * A table with the words of media in several languages.
     *
     * @param  list<Relation>  $ties
     * @return array{table: string, on: string, where: string|null, columns: array<string, string>}|null
     */
    private function wordsOf(MediaTable $media, array $ties): ?array
    {
        foreach ($ties as $tie) {
            $table = $this->tables[$tie->table];
            if ($tie->to !== $media->table->name || $tie->table === ($media->sizes['table'] ?? '')) {
                continue;
            }
            $columns = self::words($table);
            if (! isset($columns['alt'])) {
                continue;
            }
            $language = null;
            foreach ($table->columns as $column) {
                $language ??=
                    Hints::say(Hints::LANGUAGE, $column->name) && $column->values !== [] ? $column : null;
            }
            if (
                $table->isUnique([$tie->column])
                || ($language !== null && $table->isUnique([$tie->column, $language->name]))
            ) {
                $first = $language === null ? null : $language->values[0];

                return [
                    'table' => $table->name,
                    'on' => $tie->column,
                    'where' => $first === null ? null : "$language->name = '".str_replace("'", "''", $first)."'",
                    'columns' => $columns,
                ];
            }
        }

        return null;
    }
}
