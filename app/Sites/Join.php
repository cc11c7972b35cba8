<?php

declare(strict_types=1);

namespace App\Sites;

/** Another table whose columns a kind of record may use: at most one row of it for each record. */
final readonly class Join
{
    /**
     * @param  string  $name before the dot, where a column of it is named
     * @param  array<string, string>  $on column of the table → column of the kind, or of a join before this one
     * @param  string|null  $where a condition in SQL on the table's own columns
     * @param  string|null  $kind the kind of record that a row of the table is, where its title and address are wanted
     */
    public function __construct(
        public string $name,
        public string $table,
        public array $on,
        public ?string $where = null,
        public ?string $kind = null,
    ) {
    }

    /** The column of the kind that holds the key of the joined record. */
    public function keyColumn(): string
    {
        return array_values($this->on)[0] ?? '';
    }
}
