<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;

/** How one column of a record is read. */
final readonly class FieldRule
{
    /**
     * @param  list<PathRule>  $paths for structured notations
     * @param  string|null  $target the kind that a record-key names
     * @param  array{column: string, kinds: array<string, string>}|null  $targetFrom the kind, decided by another column
     */
    public function __construct(
        public string $column,
        public Notation $notation,
        public ?string $role,
        public array $paths,
        public ?string $target,
        public ?array $targetFrom,
    ) {
    }
}
