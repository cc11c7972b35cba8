<?php

declare(strict_types=1);

namespace Ylema\Connect;

/**
 * Works out which table shows which: beginning at the pages, whatever is tied to something that a page reaches is shown
 * by it. A row that holds another's key shows that other one if it is as near to a page, and is a part of it if it is
 * farther away.
 */
final readonly class Carriers
{
    /** @var array<string, int> table → ties from the nearest page */
    public array $distance;

    /** @var list<Relation> rows that show what they name */
    public array $shows;

    /** @var list<Relation> rows that are a part of what they name */
    public array $parts;

    /**
     * @param  list<Relation>  $relations
     * @param  list<string>  $pages tables where it begins
     * @param  list<string>  $placed tables that texts of pages place themselves
     * @param  list<string>  $outside tables that carry nothing
     */
    public function __construct(array $relations, array $pages, array $placed, array $outside)
    {
        $distance = array_fill_keys($pages, 0);
        foreach ($placed as $table) {
            $distance[$table] ??= 1;
        }
        $relations = array_values(
            array_filter(
                $relations,
                static fn (Relation $r): bool => $r->table !== $r->to
                    && ! in_array($r->table, $outside, true)
                    && ! in_array($r->to, $outside, true),
            ),
        );
        do {
            $before = $distance;
            foreach ($relations as $relation) {
                foreach ([[$relation->table, $relation->to], [$relation->to, $relation->table]] as [$near, $far]) {
                    if (isset($distance[$near]) && $distance[$near] + 1 < ($distance[$far] ?? PHP_INT_MAX)) {
                        $distance[$far] = $distance[$near] + 1;
                    }
                }
            }
        } while ($distance !== $before);
        $this->distance = $distance;
        $ways = array_filter(
            $relations,
            static fn (Relation $r): bool => (isset($distance[$r->table], $distance[$r->to])
                && $distance[$r->to] !== 0)
                || ($distance[$r->table] ?? 0) > ($distance[$r->to] ?? PHP_INT_MAX),
        );
        $this->shows = array_values(
            array_filter($ways, static fn (Relation $r): bool => $distance[$r->table] <= $distance[$r->to]),
        );
        $this->parts = array_values(
            array_filter($ways, static fn (Relation $r): bool => $distance[$r->table] > $distance[$r->to]),
        );
    }

    /**
     * The tables that are needed: those that hold something, and those through which a page reaches them.
     *
     * @param  list<string>  $holding
     * @return list<string>
     */
    public function needed(array $holding): array
    {
        $needed = array_fill_keys($holding, true);
        do {
            $before = count($needed);
            foreach ($this->shows as $relation) {
                $needed += isset($needed[$relation->to]) ? [$relation->table => true] : [];
            }
            foreach ($this->parts as $relation) {
                $needed += isset($needed[$relation->table]) ? [$relation->to => true] : [];
            }
        } while (count($needed) > $before);

        return array_map(strval(...), array_keys($needed));
    }
}
