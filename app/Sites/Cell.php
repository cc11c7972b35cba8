<?php

declare(strict_types=1);

namespace App\Sites;

/** A value of a table, or a stretch of one that is long. */
final readonly class Cell
{
    /**
     * @param  string  $key of its row; empty where the table has none
     * @param  int  $from bytes of the value before this stretch
     */
    public function __construct(
        public string $table,
        public string $column,
        public string $key,
        public string $text,
        public int $from = 0,
    ) {
    }
}
