<?php

declare(strict_types=1);

namespace Tests\Core\Connect;

use Ylema\Connect\Samples;

/** A database with one table's rows, and with keys that are there. */
final readonly class MadeSamples implements Samples
{
    /**
     * @param  list<array<string, string|null>>  $rows
     * @param  list<string>  $keys of any table
     */
    public function __construct(private array $rows, private array $keys = [])
    {
    }

    public function tables(): iterable
    {
        return [];
    }

    public function known(string $table, string $column, array $values): int
    {
        return count(array_intersect($values, $this->keys));
    }

    public function keys(string $table, string $column): iterable
    {
        return $this->keys;
    }

    public function byName(string $table, string $name, string $value): array
    {
        return [];
    }

    public function quoted(string $column): string
    {
        return $column;
    }

    public function rows(string $table, array $columns, array $joins = []): array
    {
        return $this->rows;
    }
}
