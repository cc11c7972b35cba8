<?php

declare(strict_types=1);

namespace App\Sites;

/** What a table holds that the field map leaves out: which columns, of which rows. */
final readonly class CellsBeside
{
    /**
     * @param  list<string>  $columns with texts or bytes in them
     * @param  string|null  $where a condition in SQL; null for all rows
     */
    public function __construct(public string $table, public array $columns, public ?string $where)
    {
    }
}
