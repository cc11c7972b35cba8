<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Packed\Packing;
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
     * @param  Packing|null  $packing how its text is kept, where that is otherwise than as it is
     * @param  array<string, string|null>  $typed what stands before a key → the kind that it is of then; null for media
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
        public ?Packing $packing = null,
        public array $typed = [],
    ) {
    }

    /** The text that a column holds; null where it is not packed as the map says. */
    public function textOf(string $raw): ?string
    {
        return $this->packing === null ? $raw : $this->packing->open($raw)?->text();
    }

    /**
     * A new text as the column is to hold it.
     *
     * @return string|null null where undo could not tell from it how the old one was packed, to the byte
     */
    public function rawOf(string $text, string $before): ?string
    {
        if ($this->packing === null) {
            return $text;
        }
        $open = $this->packing->open($before);
        $packed = $open?->pack($text);

        return $packed !== null && $this->packing->open($packed)?->pack((string) $open?->text()) === $before
            ? $packed
            : null;
    }

    /** @param  array<string, string|null>  $row */
    public function targetOf(array $row): ?string
    {
        return $this->targetFrom === null
            ? $this->target
            : $this->targetFrom['kinds'][$row[$this->targetFrom['column']] ?? ''] ?? null;
    }

    /**
     * The kind and the key that a value names.
     *
     * @param  array<string, string|null>  $row
     * @return array{string|null, string}
     */
    public function namedBy(string $value, array $row): array
    {
        foreach ($this->typed as $before => $kind) {
            if (str_starts_with($value, (string) $before)) {
                return [$kind, substr($value, strlen((string) $before))];
            }
        }

        return [$this->typed === [] ? $this->targetOf($row) : null, $value];
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
