<?php

declare(strict_types=1);

namespace App\Sites;

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
        $parts = array_map(static fn (string $column): string => $row[$column] ?? '', $this->columns);

        // Of several values none may run into the next, so what parts them is written otherwise within.
        return $this->isOne()
            ? $parts[0]
            : implode(
                '/',
                array_map(static fn (string $part): string => strtr($part, ['%' => '%25', '/' => '%2F']), $parts),
            );
    }

    /** @return list<string>|null the values of the columns, or null where the text is no such key */
    public function parts(string $key): ?array
    {
        if ($this->isOne()) {
            return [$key];
        }
        $parts = explode('/', $key);

        return count($parts) === count($this->columns)
            ? array_map(static fn (string $part): string => strtr($part, ['%2F' => '/', '%25' => '%']), $parts)
            : null;
    }
}
