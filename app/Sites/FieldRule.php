<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;

/** How one column of a record is read. */
final readonly class FieldRule
{
    /**
     * @param  string|null  $role a text; columns of the row in braces
     * @param  list<PathRule>  $paths for structured notations
     * @param  string|null  $target the kind that a record-key names
     * @param  array{column: string, kinds: array<string, string>}|null  $targetFrom the kind, decided by another column
     * @param  bool  $isKept whether it is read and never written
     * @param  string|null  $below the folder, from the root of the host, that the site's code puts before a bare path
     */
    public function __construct(
        public string $column,
        public Notation $notation,
        public ?string $role = null,
        public array $paths = [],
        public ?string $target = null,
        public ?array $targetFrom = null,
        public bool $isKept = false,
        public ?string $below = null,
    ) {
    }

    /** @param  array<string, string|null>  $row */
    public function targetOf(array $row): ?string
    {
        return $this->targetFrom === null
            ? $this->target
            : $this->targetFrom['kinds'][$row[$this->targetFrom['column']] ?? ''] ?? null;
    }

    /** @param  array<string, string|null>  $row */
    public function roleOf(array $row): ?string
    {
        if ($this->role === null || ! str_contains($this->role, '{')) {
            return $this->role;
        }
        $role = (new Template($this->role))->fill(static fn (string $column): string => $row[$column] ?? '');

        return mb_strcut(trim($role), 0, 60) ?: null;
    }

    /** @return list<string> columns beside its own that say how it is read */
    public function columns(): array
    {
        return [
            ...$this->targetFrom === null ? [] : [$this->targetFrom['column']],
            ...$this->role === null ? [] : (new Template($this->role))->columns(),
        ];
    }
}
