<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Sites\KeyPart;

/** The columns that together name one record, and the one text that stands for their values. */
final readonly class RecordKey
{
    /** @param  non-empty-list<string>  $columns */
    public function __construct(public array $columns)
    {
    }

    public function isOne(): bool
    {
        return count($this->columns) === 1;
    }

    /** @param  array<string, string|null>  $row column → text */
    public function of(array $row): string
    {
        return KeyPart::join(
            array_map(static fn (string $column): string => $row[$column] ?? '', $this->columns),
        );
    }

    /** @return list<string>|null the values of the columns, or null where the text is no such key */
    public function parts(string $key): ?array
    {
        return KeyPart::split($key, count($this->columns));
    }

    /** Where a column stands in it. */
    public function part(string $column): ?KeyPart
    {
        $position = array_search($column, $this->columns, true);

        return $position === false ? null : new KeyPart((int) $position, count($this->columns));
    }
}
