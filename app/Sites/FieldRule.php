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
     * @param  string|null  $below the folder that the site's code puts before a bare path; columns of the row in braces
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

        return mb_strcut(trim(self::filled($this->role, $row)), 0, 60) ?: null;
    }

    /**
     * @param  string|null  $below of the rule itself or of a place inside
     * @param  array<string, string|null>  $row
     * @return string|null below the site's root, ending in a slash
     */
    public static function folderOf(?string $below, array $row): ?string
    {
        if ($below === null || ! str_contains($below, '{')) {
            return $below;
        }

        // A part that is empty leaves no slash behind.
        return ltrim(preg_replace('~/{2,}~', '/', self::filled($below, $row)) ?? '', '/');
    }

    /** @param  array<string, string|null>  $row */
    private static function filled(string $text, array $row): string
    {
        return (new Template($text))->fill(static fn (string $column): string => $row[$column] ?? '');
    }

    /** @return list<string> columns beside its own that say how it is read */
    public function columns(): array
    {
        $inside = array_map(static fn (PathRule $path): ?string => $path->below, $this->paths);

        return [
            ...$this->targetFrom === null ? [] : [$this->targetFrom['column']],
            ...(new Template(implode(' ', [$this->role, $this->below, ...$inside])))->columns(),
        ];
    }
}
