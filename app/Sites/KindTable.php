<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Column;
use App\Sites\Sql\Connection;
use Ylema\Sites\KeyRange;
use Ylema\Sites\SourceUnavailable;

/** The records of one kind as SQL reads them: what is selected, from where, and which keys are meant. */
final class KindTable
{
    private readonly JoinedTable $table;

    private readonly string $place;

    /** @var list<string>|null the columns whose bytes are said in hexadecimal digits */
    private ?array $ids = null;

    public function __construct(public readonly KindMap $map, private readonly Connection $database)
    {
        $this->place = "records.$map->kind";
        $this->table = new JoinedTable($database, $map->table, $this->where(), $map->joins, $this->place);
    }

    /** @return list<string> the columns whose bytes are said in hexadecimal digits */
    public function ids(): array
    {
        return $this->ids ??= $this->namingColumns();
    }

    /** @return list<string> */
    private function namingColumns(): array
    {
        $ids = [
            ...$this->map->key->columns,
            ...array_map(static fn (FieldRule $o): string => $o->column, $this->map->owners),
        ];
        foreach ($this->map->fields as $column => $field) {
            if ($field->holdsIds()) {
                $ids[] = $column;
            }
        }
        foreach ($this->map->joins as $join) {
            if ($join->kind !== null) {
                $ids[] = $join->keyColumn();
            }
        }

        return $ids;
    }

    /**
     * @param  list<string>  $columns
     * @return string a statement to which conditions can be added, each after `and`
     */
    public function select(array $columns): string
    {
        return $this->table->select($columns, $this->ids(), $this->map->isDistinct ? 'distinct ' : '');
    }

    public function count(?int $most = null): string
    {
        $key = $this->map->isDistinct ? "distinct {$this->keyExpressions()[0]}" : null;

        return $most === null
            ? 'select count('.($key ?? '*').')'.$this->table->from([])
            : 'select count(*) from (select '.($key ?? '1 as one').$this->table->from([])." limit $most) as counted";
    }

    /** Every $size-th key, in the order of the keys. */
    public function ends(int $size): string
    {
        $names = array_map(
            fn (string $column): string => $this->database->dialect->name($column),
            $this->map->key->columns,
        );
        $order = implode(', ', $names);
        // Within, the keys are as they are, so that they are ordered as an index has them.
        $keys = implode(', ', array_map($this->table->expression(...), $this->map->key->columns));
        $named = implode(
            ', ',
            array_map(
                fn (string $column, string $name): string => "{$this->table->expression($column)} as $name",
                $this->map->key->columns,
                $names,
            ),
        );
        $said = implode(
            ', ',
            array_map(
                fn (string $column, string $name): string => $this->table->column($column)->isBinary
                    ? $this->database->dialect->hex($name)." as $name"
                    : $name,
                $this->map->key->columns,
                $names,
            ),
        );
        $from = $this->table->from([]);
        $inner = $this->map->isDistinct
            ? "select $order, row_number() over (order by $order) as n from (select distinct $named$from) as d"
            : "select $named, row_number() over (order by $keys) as n$from";

        return "select $said from ($inner) as numbered where n % $size = 0 order by n";
    }

    public function order(): string
    {
        return ' order by '.implode(', ', array_map($this->table->expression(...), $this->map->key->columns));
    }

    /**
     * @return array{string, list<string>} further conditions, and their values
     */
    public function within(KeyRange $range): array
    {
        $sql = '';
        $values = [];
        foreach ([['>', '>', $range->after], ['<', '<=', $range->to]] as [$strictly, $last, $key]) {
            $parts = $key === null ? null : $this->map->key->parts($key);
            if ($parts === null) {
                continue;
            }
            $either = [];
            $expressions = array_map($this->table->expression(...), $this->map->key->columns);
            $parameters = $this->keyParameters();
            foreach (array_keys($parts) as $n) {
                $all = [];
                for ($before = 0; $before < $n; $before++) {
                    $all[] = "{$expressions[$before]} = {$parameters[$before]}";
                    $values[] = $parts[$before];
                }
                $all[] = "{$expressions[$n]} ".($n === count($parts) - 1 ? $last : $strictly)." {$parameters[$n]}";
                $values[] = $parts[$n];
                $either[] = '('.implode(' and ', $all).')';
            }
            $sql .= ' and ('.implode(' or ', $either).')';
        }

        return [$sql, $values];
    }

    /**
     * Keys are compared with their own type, so that the source's index is used.
     *
     * @param  non-empty-list<string>  $keys
     * @return array{string, list<string>} a condition, and its values
     */
    public function among(array $keys): array
    {
        $expressions = array_map($this->table->expression(...), $this->map->key->columns);
        $parameters = $this->keyParameters();
        if (count($expressions) === 1) {
            return ["{$expressions[0]} in (".implode(', ', array_fill(0, count($keys), $parameters[0])).')', $keys];
        }
        $values = [];
        foreach ($keys as $key) {
            array_push($values, ...$this->map->key->parts($key) ?? []);
        }
        $one = "({$this->matches($expressions, $parameters)})";

        return ['('.implode(' or ', array_fill(0, count($keys), $one)).')', $values];
    }

    /**
     * A word cannot name a record whose key is a number, and some databases refuse the question.
     *
     * @param  list<string>  $keys
     * @return list<string>
     */
    public function askable(array $keys): array
    {
        $columns = array_map($this->table->column(...), $this->map->key->columns);

        return array_values(
            array_filter($keys, function (string $key) use ($columns): bool {
                $parts = $this->map->key->parts($key);
                foreach ($columns as $n => $column) {
                    if ($parts === null || ! $column->canHold($parts[$n])) {
                        return false;
                    }
                }

                return true;
            }),
        );
    }

    /** @return list<string> the key's columns in a statement that begins with select() */
    public function keyExpressions(): array
    {
        return array_map($this->table->expression(...), $this->map->key->columns);
    }

    /** @return list<string> */
    public function keyParameters(): array
    {
        return array_map(
            fn (string $column): string => $this->database->dialect->keyParameter($this->table->column($column)),
            $this->map->key->columns,
        );
    }

    /**
     * @param  list<string>  $left
     * @param  list<string>  $right
     */
    public function matches(array $left, array $right): string
    {
        return implode(' and ', array_map(static fn (string $l, string $r): string => "$l = $r", $left, $right));
    }

    /** @throws SourceUnavailable|FieldMapError */
    public function column(string $column): Column
    {
        return $this->table->column($column);
    }

    /** A new value of a column, as its type wants it. */
    public function parameter(string $column): string
    {
        return in_array($column, $this->ids(), true)
            ? $this->database->dialect->keyParameter($this->column($column))
            : $this->database->dialect->parameter($this->column($column));
    }

    /** The kind's own condition, and of a table with one value a row, that it is one of those that are read. */
    private function where(): ?string
    {
        $conditions = $this->map->where === null ? [] : ["({$this->map->where})"];
        if ($this->map->isDistinct) {
            $conditions[] = "{$this->database->dialect->name($this->map->key->columns[0])} is not null";
        }
        $names = $this->named();
        if ($names !== null) {
            $conditions[] = '('.implode(' or ', $names).')';
        }

        return $conditions === [] ? null : implode(' and ', $conditions);
    }

    /** @return list<string>|null conditions of which one holds; null where a field is read in every row */
    private function named(): ?array
    {
        $conditions = [];
        foreach ($this->map->fields as $field) {
            if ($field->by === null || str_contains($field->by, '.')) {
                return null;
            }
            $column = $this->database->dialect->name($field->by);
            foreach (array_keys($field->rules) as $name) {
                $conditions[] = str_contains((string) $name, '*')
                    ? "$column like ".$this->literal(FieldColumn::like((string) $name))." escape '!'"
                    : "$column = ".$this->literal((string) $name);
            }
        }

        return $conditions === [] ? null : array_values(array_unique($conditions));
    }

    private function literal(string $text): string
    {
        return $this->database->pdo()->quote($text);
    }
}
