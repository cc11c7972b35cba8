<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** A column of a database that nobody described, with some of what stands in it. */
final readonly class ColumnProfile
{
    /**
     * @param  list<string>  $values sampled, none of them empty
     * @param  int  $length characters that fit in, where the type says so; else 0
     */
    public function __construct(
        public string $name,
        public ColumnType $type,
        public array $values = [],
        public int $length = 0,
    ) {
    }

    /** @return list<string> */
    public function distinct(): array
    {
        return array_values(array_unique($this->values));
    }

    /** @param  non-empty-string  $pattern */
    public function share(string $pattern): float
    {
        return $this->values === [] ? 0.0 : count(preg_grep($pattern, $this->values) ?: []) / count($this->values);
    }
}
