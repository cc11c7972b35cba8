<?php

declare(strict_types=1);

namespace Ylema\Connect;

/**
 * Tells apart, in a table of versions, the one of each record that is shown now from those before it, where a column of
 * the record says which it is.
 */
final readonly class Versions
{
    /** What needs no quotes in the SQL of any database. */
    private const PLAIN = '~^[a-z_][a-z0-9_]*(?:\.[a-z_][a-z0-9_]*)?$~D';

    /**
     * @param  array<string, TableProfile>  $tables
     * @param  list<Relation>  $ties
     */
    public function __construct(
        private array $tables,
        private array $ties,
        private KindNames $kinds,
        private Dialogue $dialogue,
    ) {
    }

    /**
     * @param  array<string, array<string, mixed>>  $records kind → section
     * @param  list<string>  $earlier tables of versions
     * @return array<string, array<string, mixed>> with a kind more for each that is shown now
     */
    public function apart(array $records, array $earlier): array
    {
        foreach ($earlier as $table) {
            $kind = $this->kinds->of($table);
            $pointer = $kind === null ? null : $this->pointer($table);
            $owner = $pointer === null ? null : $this->kinds->of($pointer->table);
            if ($kind !== null && $pointer !== null && $owner !== null && isset($records[$kind], $records[$owner])) {
                $records = $this->split($records, $kind, $owner, $pointer);
            }
        }

        return $records;
    }

    private function pointer(string $versions): ?Relation
    {
        foreach ($this->ties as $tie) {
            $isPlain = preg_grep(self::PLAIN, [$tie->table, $tie->column, $tie->key, $versions]) ?: [];
            if (
                $tie->to === $versions
                && count($isPlain) === 4
                && preg_match(Hints::CURRENT, Hints::apart($tie->column)) === 1
            ) {
                return $tie;
            }
        }

        return null;
    }

    /**
     * @param  array<string, array<string, mixed>>  $records
     * @return array<string, array<string, mixed>>
     */
    private function split(array $records, string $kind, string $owner, Relation $pointer): array
    {
        $now = $records[$kind];
        unset($now['state']);
        $shown = "(select $pointer->column from $pointer->table where $pointer->column is not null)";
        $now = ['table' => $pointer->to, 'where' => "$pointer->key in $shown", ...$now];
        $records[$kind] = ['table' => $pointer->to, 'where' => "$pointer->key not in $shown", ...$records[$kind]];
        $name = "$owner-text";
        for ($n = 2; isset($records[$name]); $n++) {
            $name = "$owner-text-$n";
        }
        $back = $this->back($pointer);
        if ($back !== null) {
            $now['part_of'] = [$back => $owner];
        } else {
            $fields = is_array($records[$owner]['fields'] ?? null) ? $records[$owner]['fields'] : [];
            $rule = ['notation' => 'record-key', 'names' => $name];
            $records[$owner]['fields'] = [...$fields, $pointer->column => $rule];
        }
        $this->dialogue->because(
            "$pointer->to.where",
            "$pointer->table.$pointer->column says which row of $pointer->to is shown now; the others are earlier ones",
        );

        return [$name => $now, ...$records];
    }

    /** The column by which a version says of which record it is. */
    private function back(Relation $pointer): ?string
    {
        foreach ($this->ties as $tie) {
            if ($tie->table === $pointer->to && $tie->to === $pointer->table && $tie->by === null) {
                return in_array($tie->column, $this->tables[$tie->table]->key(), true) ? null : $tie->column;
            }
        }

        return null;
    }
}
