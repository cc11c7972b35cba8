<?php

declare(strict_types=1);

namespace Ylema\Connect;

/**
 * Where a table keeps the words of things as rows of names and values, the title of each thing and its name in
 * addresses are rows as well. Here they become columns of the things, each by a join to the one row that says it.
 */
final readonly class AttributeWords
{
    /** Attributes that name a thing, to a person or in an address. */
    private const WORDS = [Hints::TITLE, Hints::SLUG, Hints::LINK_NAME];

    /** Of all things, so many must have one. */
    private const ENOUGH = 0.5;

    /** @param  list<Relation>  $ties */
    public function __construct(private array $ties, private Samples $samples)
    {
    }

    /**
     * @param  array<string, TableProfile>  $tables
     * @param  array<string, array{string, string, 2?: Relation}|null>  $pairs table → columns of name and value, and
     *       where the name is a row of another table, how it is tied there
     * @return array<string, TableProfile> the same, those with words among attributes with more columns
     */
    public function with(array $tables, array $pairs): array
    {
        foreach (array_filter($pairs) as $name => $pair) {
            foreach ($this->ties as $tie) {
                $isOwner = $tie->table === $name && $tie->by === null && $tie->between === null
                    && $tie->to !== $name && $tie->column !== ($pair[2] ?? null)?->column
                    && isset($tables[$tie->to]) && $tables[$tie->to]->id() === $tie->key;
                if ($isOwner) {
                    $tables[$tie->to] = $this->added($tables[$tie->to], $tie, $pair);
                }
            }
        }

        return $tables;
    }

    /** @param  array{string, string, 2?: Relation}  $pair */
    private function added(TableProfile $owner, Relation $tie, array $pair): TableProfile
    {
        [$name, $value, $coded] = [...$pair, null];
        $by = $coded === null ? $name : $coded->column;
        $codes = $coded === null ? [] : $this->codes($coded, (string) preg_replace('~^.*\.~', '', $name));
        $columns = $joins = $owners = [];
        foreach ($this->samples->rows($tie->table, [$tie->column, $by]) as $row) {
            $owners[(string) $row[$by]][] = (string) $row[$tie->column];
        }
        $seen = count(array_unique(array_merge([], ...array_values($owners))));
        foreach ($this->samples->byName($tie->table, $by, $value) as $code => $values) {
            $code = (string) $code;
            $word = $codes[$code] ?? $code;
            $isWord = array_filter(self::WORDS, static fn (string $hint): bool => Hints::say($hint, $word)) !== [];
            $join = Hints::joinName($word, '');
            $isOne = self::isOneEach($owners[$code] ?? [], min($owner->rows, $seen));
            if (! $isWord || ! $isOne || isset($joins[$join])) {
                continue;
            }
            $said = preg_match('~^\d+$~', $code) === 1 && $coded !== null
                ? $code
                : "'".str_replace("'", "''", $code)."'";
            $joins[$join] = [
                'table' => $tie->table,
                'on' => [$tie->column => $tie->key],
                'where' => $this->samples->quoted($by)." = $said",
            ];
            $columns["$join.$value"] = new ColumnProfile("$join.$value", ColumnType::Text, $values, means: $word);
        }

        return $joins === [] ? $owner : $owner->joined($columns, $joins);
    }

    /** @return array<string, string> number of an attribute → what it is called */
    private function codes(Relation $coded, string $name): array
    {
        $codes = [];
        foreach ($this->samples->rows($coded->to, [$coded->key, $name]) as $row) {
            $codes[(string) $row[$coded->key]] = (string) $row[$name];
        }

        return $codes;
    }

    /**
     * Whether most things have one such row, and none has two, as those of several languages do.
     *
     * @param  list<string>  $owners of the rows with one name
     * @param  int  $things that were seen
     */
    private static function isOneEach(array $owners, int $things): bool
    {
        return $owners !== []
            && count(array_unique($owners)) === count($owners)
            && count($owners) >= self::ENOUGH * $things;
    }
}
