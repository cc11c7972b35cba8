<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** A column that refers to media, and that no line of a map reads. */
final readonly class Gap
{
    /**
     * @param  string  $name of the rows, where a table keeps one value a row
     * @param  string|array<mixed>  $rule as a field map would say it
     * @param  string  $why what speaks for it
     * @param  string|null  $passing why its table is most likely no content at all
     */
    public function __construct(
        public string $table,
        public string $column,
        public string $name,
        public string|array $rule,
        public string $why,
        public int $files,
        public ?string $passing,
    ) {
    }
}
