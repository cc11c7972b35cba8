<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Connect\KeyColumn;

/** A column of a table, or some of its rows, whose values could be keys of media. */
final readonly class LikelyKeys
{
    /** @param  string|null  $by a column that sorts the rows, and its word in these; null for all rows */
    public function __construct(
        public string $table,
        public string $column,
        public ?string $by,
        public ?string $word,
        public KeyColumn $keys,
    ) {
    }

    public function place(): string
    {
        return "$this->table.$this->column".($this->by === null ? '' : ", rows with $this->by “{$this->word}”");
    }
}
