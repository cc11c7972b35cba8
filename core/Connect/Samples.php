<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** The port through which a proposal asks a database that nobody described. */
interface Samples
{
    /** @return iterable<TableProfile> */
    public function tables(): iterable;

    /**
     * How many of these values stand in a column.
     *
     * @param  non-empty-list<string>  $values each once
     */
    public function known(string $table, string $column, array $values): int;

    /**
     * The values of a column, each once, as far as there are not more than can be held against others.
     *
     * @return iterable<string>
     */
    public function keys(string $table, string $column): iterable;

    /**
     * Some values for each name, where a table keeps one value a row.
     *
     * @return array<string, list<string>> name → values that are not empty
     */
    public function byName(string $table, string $name, string $value): array;

    /** A column's name as a condition in the database's own SQL has it. */
    public function quoted(string $column): string;

    /**
     * Some rows, with columns of other tables joined to them.
     *
     * @param  list<string>  $columns of the table; one of a join has the join's name and a dot before it
     * @param  array<string, array{table: string, on: array<string, string>, where?: string}>  $joins
     * @return list<array<string, string|null>>
     */
    public function rows(string $table, array $columns, array $joins = []): array;
}
