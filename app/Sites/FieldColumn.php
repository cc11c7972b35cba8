<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Reading\Notation;

/** A column that can refer to media or other records: one rule for all rows, or one by a name in another column. */
final readonly class FieldColumn
{
    /**
     * @param  string|null  $by the column whose text decides, as where a table keeps one value a row
     * @param  array<string, FieldRule>  $rules by that text, in which `*` stands for any letters; under '' the only one
     */
    public function __construct(public string $column, public ?string $by, public array $rules)
    {
    }

    /**
     * @param  array<string, string|null>  $row
     * @return FieldRule|null null where nobody said how a row of this name is read
     */
    public function rule(array $row): ?FieldRule
    {
        if ($this->by === null) {
            return $this->rules[''] ?? null;
        }
        $name = $row[$this->by] ?? '';
        if (isset($this->rules[$name])) {
            return $this->rules[$name];
        }
        foreach ($this->rules as $pattern => $rule) {
            if (str_contains((string) $pattern, '*') && preg_match(self::expression((string) $pattern), $name) === 1) {
                return $rule;
            }
        }

        return null;
    }

    /** @return list<string> columns beside its own that are needed to read it */
    public function columns(): array
    {
        $columns = $this->by === null ? [] : [$this->by];
        foreach ($this->rules as $rule) {
            array_push($columns, ...$rule->columns());
        }

        return array_values(array_unique($columns));
    }

    /** Whether the name that decides stands in another table. */
    public function isNamedElsewhere(): bool
    {
        return str_contains((string) $this->by, '.');
    }

    /** Whether it holds ids or keys, so that a column of bytes in it is one as well. */
    public function holdsIds(): bool
    {
        foreach ($this->rules as $rule) {
            if (! in_array($rule->notation, [Notation::MediaId, Notation::RecordKey], true)) {
                return false;
            }
        }

        return true;
    }

    /** Names as they are listed, and names with `*` as the patterns of SQL's `like`, whose escape is `!`. */
    public static function like(string $pattern): string
    {
        return strtr($pattern, ['!' => '!!', '%' => '!%', '_' => '!_', '*' => '%']);
    }

    private static function expression(string $pattern): string
    {
        return '~^'.strtr(preg_quote($pattern, '~'), ['\*' => '.*']).'$~Ds';
    }
}
