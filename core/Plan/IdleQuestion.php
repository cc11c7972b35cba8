<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** Which files somebody wants to lay to rest. Whatever is said narrows it; nothing said means all that is idle. */
final readonly class IdleQuestion
{
    /**
     * @param  array<string, string>  $marks of the ledger: `folder`, `type`, `q` and the others
     * @param  list<int>|null  $items numbers in the index
     * @param  list<int>|null  $files numbers of renditions in the index: these alone rest, and their items stay
     * @param  array{int, int}|null  $size width and height of renditions that nothing needs;
     *       a height of 0 for those of their original's own shape
     */
    public function __construct(
        public array $marks = [],
        public ?array $items = null,
        public ?array $files = null,
        public ?array $size = null,
    ) {
    }

    /** Whether only renditions are meant, whose originals stay. */
    public function isOfRenditions(): bool
    {
        return $this->files !== null || $this->size !== null;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['marks' => $this->marks, 'items' => $this->items, 'files' => $this->files, 'size' => $this->size];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        $numbers = static fn (mixed $list): ?array => is_array($list)
            ? array_values(array_filter($list, is_int(...)))
            : null;
        $marks = [];
        foreach (is_array($data['marks'] ?? null) ? $data['marks'] : [] as $name => $value) {
            if (is_string($value)) {
                $marks[(string) $name] = $value;
            }
        }
        $size = $numbers($data['size'] ?? null);

        return new self(
            $marks,
            $numbers($data['items'] ?? null),
            $numbers($data['files'] ?? null),
            $size !== null && count($size) === 2 ? [$size[0], $size[1]] : null,
        );
    }
}
