<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Reading\Reference;

/** A place that will name what an earlier step of the plan makes; found again by where it stands. */
final readonly class PromisedEdit
{
    /**
     * @param  int  $start in bytes of the field
     * @param  int  $length in bytes
     * @param  string|null  $value what it will say; null for the id that the promise stands for
     */
    public function __construct(
        public string $field,
        public int $start,
        public int $length,
        public string $promise,
        public ?string $value = null,
    ) {
    }

    public function isOf(Reference $reference): bool
    {
        return $reference->start === $this->start && $reference->length === $this->length;
    }

    /** @return array{field: string, start: int, length: int, promise: string, value: string|null} */
    public function toArray(): array
    {
        return [
            'field' => $this->field,
            'start' => $this->start,
            'length' => $this->length,
            'promise' => $this->promise,
            'value' => $this->value,
        ];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        return new self(
            is_string($data['field'] ?? null) ? $data['field'] : '',
            is_int($data['start'] ?? null) ? $data['start'] : 0,
            is_int($data['length'] ?? null) ? $data['length'] : 0,
            is_string($data['promise'] ?? null) ? $data['promise'] : '',
            is_string($data['value'] ?? null) ? $data['value'] : null,
        );
    }
}
