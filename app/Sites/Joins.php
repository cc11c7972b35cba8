<?php

declare(strict_types=1);

namespace App\Sites;

/** Reads the section `joins` of a field map, and the names of columns that may be those of a join. */
final readonly class Joins
{
    /** What may be said of one join. */
    public const LINES = ['table', 'kind', 'on', 'where'];

    /**
     * @param  list<string>  $kinds of the map
     * @param  MapNode|null  $records where the table and the key of a joined kind stand
     * @return array<string, Join>
     *
     * @throws FieldMapError
     */
    public static function of(MapNode $section, array $kinds, ?MapNode $records = null): array
    {
        $joins = [];
        $list = $section->optional('joins', 'tables belong here, each under a name of your choice.');
        foreach ($list->keys() as $name) {
            if (preg_match('~^[a-z][a-z0-9_]*$~D', $name) !== 1) {
                throw $list->wrong($name, 'a name in small letters belongs here; columns are named with it and a dot.');
            }
            $own = $list->section($name, 'a table (or a kind) and "on" belong here.');
            $own->only(self::LINES);
            $joins[$name] = $own->has('kind')
                ? self::ofKind($name, $own, $kinds, $joins, $records)
                : self::ofTable($name, $own, $joins);
        }

        return $joins;
    }

    /**
     * @param  array<string, Join>  $joins
     *
     * @throws FieldMapError
     */
    public static function column(MapNode $section, string $key, array $joins): string
    {
        return self::known($section, $key, $section->columnName($key, $section->value($key)), $joins);
    }

    /**
     * @param  array<string, Join>  $joins
     *
     * @throws FieldMapError
     */
    public static function known(MapNode $section, string $key, string $column, array $joins): string
    {
        $section->columnName($key, $column);
        $join = strstr($column, '.', true);
        if ($join !== false && ! isset($joins[$join])) {
            throw $section->wrong(
                $key,
                "there is no join \"$join\" here"
                    .($joins === []
                        ? '. List it under "joins".'
                        : '; known: '.implode(', ', array_keys($joins)).'.'),
            );
        }

        return $column;
    }

    /** @param  array<string, Join>  $before */
    private static function ofTable(string $name, MapNode $own, array $before): Join
    {
        $on = $own->section(
            'on',
            'a column of that table belongs here, and the column of this one that it is equal to.',
        );
        $columns = [];
        foreach ($on->keys() as $theirs) {
            $columns[$on->columnName($theirs, $theirs)] = self::column($on, $theirs, $before);
        }
        if ($columns === []) {
            throw $own->wrong('on', 'at least one pair of columns belongs here: { entry_id: id }.');
        }

        return new Join($name, $own->identifier('table'), $columns, $own->text('where'));
    }

    /**
     * @param  list<string>  $kinds
     * @param  array<string, Join>  $before
     */
    private static function ofKind(string $name, MapNode $own, array $kinds, array $before, ?MapNode $records): Join
    {
        $kind = FieldMap::target($own, 'kind', $kinds);
        if ($kind === null || $records === null) {
            throw $own->wrong('kind', 'only a kind of record can be joined to another kind.');
        }
        $column = self::column($own, 'on', $before);
        $other = $records->section($kind, 'a table and its fields belong here.');
        if (! is_string($other->value('key'))) {
            throw $own->wrong('kind', "a $kind is named by more than one column, so join its table instead.");
        }

        return new Join(
            $name,
            $other->identifier('table'),
            [$other->identifier('key') => $column],
            $own->text('where') ?? $other->text('where'),
            $kind,
        );
    }
}
