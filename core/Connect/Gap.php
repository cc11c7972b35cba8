<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** What refers to media and no line of a map reads: a column, a place inside of one, or files. */
final readonly class Gap
{
    /**
     * @param  string  $table empty for files
     * @param  string  $column for files, the pattern of their paths
     * @param  string  $name of the rows, where a table keeps one value a row
     * @param  string|array<mixed>  $rule as a field map would say it
     * @param  string  $why what speaks for it
     * @param  string|null  $passing why its table is most likely no content at all
     * @param  string  $path the place inside of a structured value that is read but for that; else empty
     * @param  string  $kind the kind of record that would have to be added, where no kind of the map reads its table
     * @param  array<string, mixed>  $section of that kind, as a field map would say it
     */
    public function __construct(
        public string $table,
        public string $column,
        public string $name,
        public string|array $rule,
        public string $why,
        public int $files,
        public ?string $passing,
        public string $path = '',
        public string $kind = '',
        public array $section = [],
    ) {
    }

    /** @param  array<string, mixed>  $section */
    public function withKind(string $kind, array $section): self
    {
        return new self(
            $this->table,
            $this->column,
            $this->name,
            $this->rule,
            $this->why,
            $this->files,
            $this->passing,
            $this->path,
            $kind,
            $section,
        );
    }
}
