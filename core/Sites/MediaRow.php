<?php

declare(strict_types=1);

namespace Ylema\Sites;

use Ylema\Change\Bytes;

/** A media row as it stands in the source's table: every column, as text, so that it can be put back exactly. */
final readonly class MediaRow
{
    /** @param  array<string, string|null>  $columns */
    public function __construct(public string $id, public array $columns)
    {
    }

    /** Of all columns; tells whether a row is still the one that a change made. */
    public function hash(): string
    {
        $columns = $this->columns;
        ksort($columns);

        return hash('sha256', serialize($columns));
    }

    /** @return array{id: string, columns: array<string, mixed>} */
    public function toArray(): array
    {
        return [
            'id' => $this->id,
            'columns' => array_map(
                static fn (?string $v): string|array|null => $v === null ? null : Bytes::pack($v),
                $this->columns,
            ),
        ];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        $columns = [];
        foreach (is_array($data['columns'] ?? null) ? $data['columns'] : [] as $name => $value) {
            $columns[(string) $name] = $value === null ? null : Bytes::unpack($value);
        }

        return new self(is_string($data['id'] ?? null) ? $data['id'] : '', $columns);
    }
}
