<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** A column of a database that nobody described, with some of what stands in it. */
final readonly class ColumnProfile
{
    /** A language as BCP 47 has it, with its region. */
    private const LANGUAGE = '~^[a-z]{2}(?:[-_][A-Za-z]{2})?$~D';

    /**
     * @param  list<string>  $values sampled, none of them empty
     * @param  int  $length characters that fit in, where the type says so; else 0
     * @param  string|null  $means what it is called, where it is reached by a join that has another name
     */
    public function __construct(
        public string $name,
        public ColumnType $type,
        public array $values = [],
        public int $length = 0,
        private ?string $means = null,
    ) {
    }

    /** What the column is for, by its name. */
    public function called(): string
    {
        return $this->means ?? $this->name;
    }

    /** @return array<string, self> `title->en` and the like, where each value is json with words in languages */
    public function inLanguages(): array
    {
        $words = [];
        foreach ($this->type === ColumnType::Text ? $this->values : [] as $value) {
            $said = str_starts_with(ltrim($value), '{') ? json_decode($value, true) : null;
            if (! is_array($said) || $said === []) {
                return [];
            }
            foreach ($said as $language => $word) {
                if (preg_match(self::LANGUAGE, (string) $language) !== 1 || ! is_string($word)) {
                    return [];
                }
                if ($word !== '') {
                    $words["$this->name->$language"][] = $word;
                }
            }
        }

        $columns = [];
        foreach ($words as $name => $own) {
            $columns[$name] = new self($name, ColumnType::Text, $own);
        }

        return $columns;
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
