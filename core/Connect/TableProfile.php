<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** A table of a database that nobody described. */
final readonly class TableProfile
{
    /**
     * @param  int  $rows as far as they were counted
     * @param  array<string, ColumnProfile>  $columns
     * @param  list<list<string>>  $uniques columns of which no two rows have the same, the primary key first
     * @param  array<string, array{string, string}>  $foreign column → table and column that the database itself ties
     *       it to
     * @param  array<string, array{table: string, on: array<string, string>, where?: string}>  $joins by which columns
     *       of others stand here: `title.value`
     * @param  list<string>  $stamps columns that the database writes again on every update
     */
    public function __construct(
        public string $name,
        public int $rows,
        public array $columns,
        public array $uniques = [],
        public array $foreign = [],
        public array $joins = [],
        public array $stamps = [],
    ) {
    }

    /**
     * @param  iterable<self>  $tables
     * @return iterable<string> all values of texts that were sampled
     */
    public static function texts(iterable $tables): iterable
    {
        foreach ($tables as $table) {
            foreach ($table->columns as $column) {
                if ($column->type === ColumnType::Text) {
                    yield from $column->values;
                }
            }
        }
    }

    /** The same with a column for each language where a value of json says one thing in several: `title->en`. */
    public function withLanguages(): self
    {
        $columns = [];
        foreach ($this->columns as $name => $column) {
            $own = $column->inLanguages();
            $columns += $own === [] ? [$name => $column] : $own;
        }

        return new self(
            $this->name,
            $this->rows,
            $columns,
            $this->uniques,
            $this->foreign,
            $this->joins,
            $this->stamps,
        );
    }

    /**
     * The same with columns of other tables.
     *
     * @param  array<string, ColumnProfile>  $columns
     * @param  array<string, array{table: string, on: array<string, string>, where?: string}>  $joins
     */
    public function joined(array $columns, array $joins): self
    {
        return new self(
            $this->name,
            $this->rows,
            $this->columns + $columns,
            $this->uniques,
            $this->foreign,
            $this->joins + $joins,
            $this->stamps,
        );
    }

    /**
     * The joins of the columns that a text names, as a title or a path does.
     *
     * @return array<string, array{table: string, on: array<string, string>, where?: string}>
     */
    public function joinsOf(string $text): array
    {
        return array_filter(
            $this->joins,
            static fn (string $name): bool => preg_match('~(?<![\w.])'.preg_quote($name, '~').'\.~', $text) === 1,
            ARRAY_FILTER_USE_KEY,
        );
    }

    /** @return list<string> the columns that name a row; empty where none do */
    public function key(): array
    {
        return $this->uniques[0] ?? [];
    }

    /** The one column that names a row. */
    public function id(): ?string
    {
        return count($this->key()) === 1 ? $this->key()[0] : null;
    }

    /** @param  list<string>  $columns */
    public function isUnique(array $columns): bool
    {
        foreach ($this->uniques as $unique) {
            if (array_diff($unique, $columns) === []) {
                return true;
            }
        }

        return false;
    }
}
