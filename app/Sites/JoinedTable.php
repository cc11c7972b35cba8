<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Column;
use App\Sites\Sql\Connection;
use Ylema\Sites\SourceUnavailable;

/** A table with the tables that are joined to it, as SQL reads it. A column is named as in the field map. */
final readonly class JoinedTable
{
    /**
     * @param  string|null  $where a condition in SQL on the table's own columns
     * @param  array<string, Join>  $joins
     * @param  string  $place of the field map that it follows from: `records.page`
     */
    public function __construct(
        private Connection $database,
        private string $table,
        private ?string $where,
        private array $joins,
        private string $place,
    ) {
    }

    /**
     * @param  list<string>  $columns
     * @param  list<string>  $ids those that are ids or keys, so that bytes in them are said in hexadecimal digits
     * @return string a statement up to its own conditions, which begin with `where`
     */
    public function select(array $columns, array $ids = [], string $more = ''): string
    {
        $list = [];
        foreach (array_unique($columns) as $column) {
            $expression = $this->expression($column, in_array($column, $ids, true));
            $name = $this->database->dialect->name($column);
            $list[] = $expression === $name ? $name : "$expression as $name";
        }

        return "select $more".implode(', ', $list).$this->from($columns);
    }

    /** @param  list<string>  $columns that the statement names */
    public function from(array $columns): string
    {
        if ($this->joins === []) {
            return " from {$this->database->dialect->quote($this->table)} where "
                .($this->where === null ? '1 = 1' : "({$this->where})");
        }
        $sql = " from {$this->narrowed($this->table, $this->where)} t0";
        foreach ($this->needed($columns) as $join) {
            $conditions = [];
            foreach ($join->on as $theirs => $ours) {
                $conditions[] = $this->equal($join, $theirs, $ours);
            }
            $sql .=
                " left join {$this->narrowed($join->table, $join->where)} {$this->alias($join->name)} on "
                .implode(' and ', $conditions);
        }

        return "$sql where 1 = 1";
    }

    /**
     * What stands for a column in a statement that names these columns, and maybe others.
     *
     * @param  bool  $asId whether bytes are said in hexadecimal digits
     */
    public function expression(string $column, bool $asId = false): string
    {
        [$join, $name] = $this->split($column);
        $quoted = $this->database->dialect->name($name);
        $plain = match (true) {
            $join !== null => "{$this->alias($join->name)}.$quoted",
            $this->joins === [] => $quoted,
            default => "t0.$quoted",
        };

        return $asId && $this->column($column)->isBinary ? $this->database->dialect->hex($plain) : $plain;
    }

    /** @throws SourceUnavailable|FieldMapError */
    public function column(string $column): Column
    {
        [$join, $name] = $this->split($column);

        return $this->database->column($join->table ?? $this->table, $name, $this->place, $column);
    }

    /** @return array{Join|null, string} */
    private function split(string $column): array
    {
        $dot = strpos($column, '.');
        $join = $dot === false ? null : $this->joins[substr($column, 0, $dot)] ?? null;

        return $join === null ? [null, $column] : [$join, substr($column, (int) $dot + 1)];
    }

    /** Two columns of unlike types are compared as texts, where the database would not compare them at all. */
    private function equal(Join $join, string $theirs, string $ours): string
    {
        $left = "{$this->alias($join->name)}.{$this->database->dialect->name($theirs)}";
        $right = $this->expression($ours);
        $their = $this->database->column($join->table, $theirs, $this->place, "$join->name.$theirs");
        $our = $this->column($ours);

        return $their->isNumber === $our->isNumber && $their->isBinary === $our->isBinary
            ? "$left = $right"
            : "{$this->database->dialect->text($left)} = {$this->database->dialect->text($right)}";
    }

    private function narrowed(string $table, ?string $where): string
    {
        $quoted = $this->database->dialect->quote($table);

        return $where === null ? $quoted : "(select * from $quoted where ($where))";
    }

    /**
     * @param  list<string>  $columns
     * @return list<Join>
     */
    private function needed(array $columns): array
    {
        $needed = [];
        while ($columns !== []) {
            $join = $this->split((string) array_pop($columns))[0];
            if ($join !== null && ! isset($needed[$join->name])) {
                $needed[$join->name] = true;
                array_push($columns, ...array_values($join->on));
            }
        }

        // In the order of the map, where a join can only stand on one before it.
        return array_values(array_intersect_key($this->joins, $needed));
    }

    private function alias(string $name): string
    {
        return $this->database->dialect->name("j $name");
    }
}
