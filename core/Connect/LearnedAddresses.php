<?php

declare(strict_types=1);

namespace Ylema\Connect;

/**
 * Learns from addresses that are known how those of a table's rows are made: what comes before the name or the number
 * of a row is a column of it, a part of its date, its parent, or always the same.
 */
final readonly class LearnedAddresses
{
    /** Ways that are worth trying. */
    private const BEST = 10;

    /** So many different rows must be met before addresses that nobody tried speak for themselves. */
    public const TELLING = 3;

    /** A number and a name in one part, either first. */
    private const BOTH = [
        '~^(?<id>\w+)(?<mark>[-_.,])(?<slug>.+)$~',
        '~^(?<slug>.+)(?<mark>[-_.,])(?<id>\w+)$~',
    ];

    private const ENDS = '~(\.html?|\.php|/)$~i';

    /**
     * @param  list<string>  $known below the root, with their query
     * @param  string|null  $slug the column with the name of a row in addresses
     * @param  string  $id the column with its number
     * @param  list<string>  $before columns that may stand before it; of a join, with its name
     * @param  list<string>  $dates columns with moments, written as dates
     * @param  string|null  $parent the column with the number of the row above
     */
    public function __construct(
        private array $known,
        private ?string $slug,
        private string $id,
        private array $before,
        private array $dates,
        private ?string $parent,
    ) {
    }

    /**
     * @param  list<array<string, string|null>>  $rows
     * @return array<string, int> address with columns in braces → how many of the rows it is known of, most first
     */
    public function of(array $rows): array
    {
        $slugs = $ids = [];
        foreach ($rows as $n => $row) {
            $slug = $this->slug === null ? '' : trim((string) $row[$this->slug], '/');
            if ($slug !== '') {
                $slugs[$slug][] = $n;
            }
            $ids[(string) $row[$this->id]] = $n;
        }
        $met = [];
        foreach ($this->known as $address) {
            foreach ($this->named($address, $rows, $slugs, $ids) as [$way, $n]) {
                $met[$way][$n] = true;
            }
        }
        $ways = array_map(count(...), $met);
        // Of two that are known of as many rows, the one that says more about them.
        uksort(
            $ways,
            static fn (string $a, string $b): int => [$ways[$b], substr_count($b, '{')]
                <=> [$ways[$a], substr_count($a, '{')],
        );

        return array_slice($ways, 0, self::BEST);
    }

    /**
     * @param  list<array<string, string|null>>  $rows
     * @param  array<string, list<int>>  $slugs
     * @param  array<string, int>  $ids
     * @return iterable<array{string, int}> a way, and the row that is met by it
     */
    private function named(string $address, array $rows, array $slugs, array $ids): iterable
    {
        [$path, $query] = [...explode('?', $address, 2), null];
        if ($query !== null && preg_match('~^(.*?=)([\w-]+)$~', $query, $m) === 1 && isset($ids[$m[2]])) {
            yield ["$path?$m[1]{".$this->id.'}', $ids[$m[2]]];
        }
        if ($query !== null) {
            return;
        }
        $end = preg_match(self::ENDS, (string) $path, $found) === 1 ? $found[1] : '';
        $parts = explode('/', substr((string) $path, 0, strlen((string) $path) - strlen($end)));
        for ($at = count($parts) - 1; $at >= 0; $at--) {
            $tail = implode('/', array_slice($parts, $at));
            foreach ($slugs[$tail] ?? [] as $n) {
                yield from $this->ways(array_slice($parts, 0, $at), '{'.$this->slug."}$end", $n, $rows, $ids);
            }
            // The ending may stand in the column as well.
            foreach ($end === '' ? [] : $slugs[$tail.$end] ?? [] as $n) {
                yield from $this->ways(array_slice($parts, 0, $at), '{'.$this->slug.'}', $n, $rows, $ids);
            }
        }
        $last = (string) end($parts);
        $head = array_slice($parts, 0, -1);
        if (isset($ids[$last])) {
            yield from $this->ways($head, '{'.$this->id."}$end", $ids[$last], $rows, $ids);
        }
        foreach (self::BOTH as $order => $both) {
            if (preg_match($both, $last, $m) !== 1 || ! isset($ids[$m['id']]) || $this->slug === null) {
                continue;
            }
            $n = $ids[$m['id']];
            if ((string) $rows[$n][$this->slug] === $m['slug']) {
                [$id, $slug] = ['{'.$this->id.'}', '{'.$this->slug.'}'];
                $own = $order === 0 ? $id.$m['mark'].$slug : $slug.$m['mark'].$id;
                yield from $this->ways($head, $own.$end, $n, $rows, $ids);
            }
        }
    }

    /**
     * @param  list<string>  $head what stands before, part by part
     * @param  list<array<string, string|null>>  $rows
     * @param  array<string, int>  $ids
     * @return iterable<array{string, int}>
     */
    private function ways(array $head, string $own, int $n, array $rows, array $ids): iterable
    {
        $row = $rows[$n];
        if ($this->parent !== null && $this->slug !== null) {
            [$before, $isTop] = $this->above($head, $row, $rows, $ids);
            if ($isTop) {
                $root = implode('/', $before);
                yield ['{'.Pages::UP.'.address'.($root === '' ? '' : "|$root").'}/'.$own, $n];
            } elseif (isset($ids[(string) ($row[$this->parent] ?? '')])) {
                // What has a parent, and does not stand below it, speaks for another way.
                yield [implode('/', [...$head, $own]), $n];

                return;
            }
        }
        $said = [];
        foreach ($head as $part) {
            $said[] = $this->said($part, $row) ?? $part;
        }
        yield [implode('/', [...$said, $own]), $n];
        if ($said !== $head) {
            yield [implode('/', [...$head, $own]), $n];
        }
    }

    /**
     * Walks up the rows above as far as the parts before a row name them.
     *
     * @param  list<string>  $head
     * @param  array<string, string|null>  $row
     * @param  list<array<string, string|null>>  $rows
     * @param  array<string, int>  $ids
     * @return array{list<string>, bool} what stands before them all, and whether the walk came to the top
     */
    private function above(array $head, array $row, array $rows, array $ids): array
    {
        $above = $ids[(string) ($row[(string) $this->parent] ?? '')] ?? null;
        while ($above !== null && $head !== []) {
            // As it is written, since a map cannot say that letters are made small.
            if (trim((string) $rows[$above][(string) $this->slug], '/') !== end($head)) {
                return [$head, false];
            }
            array_pop($head);
            $above = $ids[(string) ($rows[$above][(string) $this->parent] ?? '')] ?? null;
        }

        return [$head, $above === null];
    }

    /**
     * The column that says a part.
     *
     * @param  array<string, string|null>  $row
     */
    private function said(string $part, array $row): ?string
    {
        foreach ($this->before as $column) {
            if (trim((string) ($row[$column] ?? ''), '/') === $part) {
                return '{'.$column.'}';
            }
        }
        foreach ($this->dates as $column) {
            if (preg_match('~^(\d{4})-(\d\d)-(\d\d)~', (string) ($row[$column] ?? ''), $date) === 1) {
                foreach (['year', 'month', 'day'] as $n => $word) {
                    if ($part === $date[$n + 1]) {
                        return '{'."$column.$word".'}';
                    }
                }
            }
        }

        return null;
    }
}
