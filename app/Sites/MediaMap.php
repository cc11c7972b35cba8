<?php

declare(strict_types=1);

namespace App\Sites;

/** Where the site's own list of media lies and what its columns mean. */
final readonly class MediaMap
{
    /** What a media row may say beside its path, each in a column of its own. */
    public const WORDS = [
        'title',
        'alt',
        'caption',
        'credit',
        'folder',
        'tags',
        'renditions',
        'focus_x',
        'focus_y',
        'width',
        'height',
    ];

    /** What the word of a smaller picture begins with, before its number in the map. */
    public const SIZE = 'size ';

    /**
     * @param  Template  $path below the site's root, from columns of the row
     * @param  array<string, string|null>  $words one of WORDS → column
     * @param  array<string, Join>  $joins
     * @param  list<Template>  $ownSizes paths of smaller pictures in columns of the row itself
     */
    public function __construct(
        public string $table,
        public string $key,
        public Template $path,
        public array $words,
        public ?string $where = null,
        public array $joins = [],
        public ?SizesMap $sizes = null,
        public array $ownSizes = [],
    ) {
    }

    public function column(string $word): ?string
    {
        return $this->words[$word] ?? null;
    }

    /** The column of a word that a change may write: one of the table itself. */
    public function written(string $word): ?string
    {
        $column = $this->column($word);

        return $column === null || str_contains($column, '.') ? null : $column;
    }

    /** @return list<string> the columns that a reading needs, each once */
    public function columns(): array
    {
        $columns = array_diff_key($this->words, ['width' => 1, 'height' => 1]);

        return array_values(
            array_unique([
                $this->key,
                ...$this->path->columns(),
                ...$this->columnsOfSizes(),
                ...array_values(array_filter($columns, is_string(...))),
            ]),
        );
    }

    /**
     * @return array<string, string>|null column → what a row for this path holds; null where it cannot have one, since
     * a part of its path stands in another table, or it lies elsewhere
     */
    public function valuesFor(string $path): ?array
    {
        $values = $this->path->unfill($path);
        foreach (array_keys($values ?? []) as $column) {
            if (str_contains((string) $column, '.')) {
                return null;
            }
        }

        return $values;
    }

    /**
     * What a whole row of the table says, as far as the table itself says it.
     *
     * @param  array<string, string|null>  $columns
     * @return array<string, string> title, alt, caption, credit, path, folder, renditions or `size n` → text
     */
    public function wordsOf(array $columns): array
    {
        $words = [];
        foreach (['title', 'alt', 'caption', 'credit', 'path', 'folder', 'renditions'] as $word) {
            $column = $this->written($word);
            if ($column !== null) {
                $words[$word] = $columns[$column] ?? '';
            }
        }
        $own = array_filter($this->path->columns(), static fn (string $column): bool => str_contains($column, '.'));
        if ($own === []) {
            $words['path'] = $this->path->fill(static fn (string $column): string => $columns[$column] ?? '');
        }

        foreach ($this->ownSizes as $n => $size) {
            $own = array_intersect_key($columns, array_flip($size->columns()));
            if (count(array_filter($own, static fn (?string $value): bool => ($value ?? '') !== '')) === count($own)) {
                $words[self::SIZE.$n] = $size->fill(static fn (string $column): string => $columns[$column] ?? '');
            }
        }

        return $words;
    }

    /**
     * @return array<string, string> column → what it holds where the smaller picture of a word lies at this path; none
     *     where the column cannot say that
     */
    public function sizeFor(string $word, string $path): array
    {
        return ($this->ownSizes[(int) substr($word, strlen(self::SIZE))] ?? null)?->unfill($path) ?? [];
    }

    /** @return list<string> */
    private function columnsOfSizes(): array
    {
        return array_merge(...array_map(static fn (Template $size): array => $size->columns(), $this->ownSizes));
    }

    /** Where in the field map a column is named. */
    public function placeOf(string $column): string
    {
        return 'media.'.
            match (true) {
                $column === $this->key => 'key',
                in_array($column, $this->path->columns(), true) => 'path',
                in_array($column, $this->columnsOfSizes(), true) => 'sizes',
                default => array_search($column, $this->words, true) ?: 'table',
            };
    }
}
