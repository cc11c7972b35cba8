<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** Gathers, while a record is edited, what its plan brings and its new values name. */
final class Brought
{
    /** @var array<array-key, true> */
    private array $marks = [];

    public function file(string $path): void
    {
        $this->marks[Mark::file($path)] = true;
    }

    public function row(string $promise): void
    {
        $this->marks[Mark::row($promise)] = true;
    }

    /** @return list<string> see Mark */
    public function marks(): array
    {
        return array_map(strval(...), array_keys($this->marks));
    }
}
