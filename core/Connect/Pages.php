<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** Finds which tables are public pages, and at which address each row is met. */
final readonly class Pages
{
    /** What a page's row is asked for by: rows that are tried at the public site. */
    private const TRIED = 8;

    /** So many of them must be met, where some may not be out. */
    private const ENOUGH = 0.4;

    /** Different words before a column is no section any more. */
    private const SECTIONS = 60;

    private const SECTION =
        '~(?:section|categ|kind|type|area|rubric|channel|topic|group|folder|dir|path|slug|code|department|'
        .'collection)~i';

    private const PIECE = '~^[\pL\pN][\pL\pN._/-]*$~u';

    private const ENDS = ['', '/', '.html', '.htm', '.php'];

    /** Tables that are pages by their own names, where no column says an address. */
    private const CALLED =
        '~(?:^|_)(?:pages?|posts?|articles?|entr(?:y|ies)|nodes?|news|stor(?:y|ies)|events?|products?|items?|'
        .'recipes?|contents?|documents?|topics?|projects?|exhibits?|species)$~i';

    /**
     * @param  array<string, TableProfile>  $tables
     * @param  list<Relation>  $relations
     */
    public function __construct(
        private array $tables,
        private array $relations,
        private string $prefix,
        private Samples $samples,
        private ?AddressTrial $trial,
    ) {
    }

    /**
     * @return array{address: string, spell: array<string, array<string, string>>, joins: list<string>, why: string,
     *     question: Question|null}|null null where a table is no page; the joins are tables
     */
    public function of(TableProfile $table): ?array
    {
        $title = $this->column($table, Hints::TITLE);
        if ($title === null || $table->id() === null || Hints::say(Hints::WAYS, $table->name)) {
            return null;
        }
        $slug = $this->slug($table);
        $language = $this->language($table);
        $sections = $this->sections($table, $slug, $language, $title);
        $candidates = $this->candidates($table, $slug, $language, array_keys($sections));
        if ($slug === null && preg_match(self::CALLED, $table->name) !== 1) {
            return null;
        }
        $found = $this->trial === null ? null : $this->tried($table, $title, $candidates, $sections, $language);
        if ($found !== null) {
            return [...$found, 'question' => null];
        }
        if ($slug === null) {
            return null;
        }
        $own = $language === null ? '{'.$slug.'}' : '{'.$language.'}/{'.$slug.'}';

        return [
            'address' => $own,
            'spell' => [],
            'joins' => [],
            'why' => 'its rows have names that an address is made of; no address that was tried showed one',
            'question' => new Question(
                "$table->name.address",
                "At which address does a visitor meet a row of $table->name?",
                array_combine(
                    array_unique([$own, ...array_column(array_slice($candidates, 0, 8), 0)]),
                    array_unique([$own, ...array_column(array_slice($candidates, 0, 8), 0)]),
                ),
                array_slice($table->columns[$slug]->distinct(), 0, 5),
            ),
        ];
    }

    private function slug(TableProfile $table): ?string
    {
        foreach ($table->columns as $column) {
            if (
                $column->type === ColumnType::Text
                && Hints::say(Hints::SLUG, $column->name)
                && $column->values !== []
                && $column->share('~^/?[\pL\pN][\pL\pN._/-]*$~u') >= 0.9
                && $column->share('~\.(?:jpe?g|png|gif|webp|svg|pdf|mp4|css|js)$~i') < 0.1
                && count($column->distinct()) >= 0.5 * count($column->values)
            ) {
                return $column->name;
            }
        }

        return null;
    }

    private function language(TableProfile $table): ?string
    {
        foreach ($table->columns as $column) {
            if (
                Hints::say(Hints::LANGUAGE, $column->name)
                && $column->share('~^[a-z]{2}(?:[-_][A-Za-z]{2})?$~') === 1.0
            ) {
                return $column->name;
            }
        }

        return null;
    }

    /** @return array<string, string> column as the map names it → the table that it is joined from, or '' */
    private function sections(TableProfile $table, ?string $slug, ?string $language, string $title): array
    {
        $sections = [];
        foreach ($table->columns as $column) {
            if (! in_array($column->name, [$slug, $language, $title], true) && $this->isSection($column)) {
                $sections[$column->name] = '';
            }
        }
        foreach ($this->relations as $relation) {
            if ($relation->table === $table->name && $relation->to !== $table->name) {
                foreach ($this->tables[$relation->to]->columns as $column) {
                    if ($this->isSection($column)) {
                        $sections[$this->joinName($relation->to).'.'.$column->name] = $relation->to;
                    }
                }
            }
        }

        return $sections;
    }

    private function isSection(ColumnProfile $column): bool
    {
        return $column->type === ColumnType::Text
            && $column->values !== []
            && count($column->distinct()) <= self::SECTIONS
            && $column->share(self::PIECE) === 1.0
            && preg_match(
                self::SECTION,
                $column->name,
            ) === 1;
    }

    /**
     * @param  list<string>  $sections
     * @return list<array{string, string|null}> addresses, and the language that stands in none of its own
     */
    private function candidates(TableProfile $table, ?string $slug, ?string $language, array $sections): array
    {
        $stem = Hints::stem($table->name, $this->prefix);
        $bare = strtolower(
            str_starts_with($table->name, $this->prefix) ? substr($table->name, strlen($this->prefix)) : $table->name,
        );
        $before = [
            '',
            ...array_map(static fn (string $s): string => '{'.$s.'}/', $sections),
            "$bare/",
            "$stem/",
            "{$stem}s/",
        ];
        $languages = $language === null ? [''] : ['{'.$language.'}/', ''];
        $candidates = [];
        if ($slug !== null) {
            foreach (array_unique($before) as $folder) {
                foreach ($languages as $first) {
                    foreach (self::ENDS as $end) {
                        $candidates[] = $first.$folder.'{'.$slug.'}'.$end;
                    }
                }
            }
        }
        $id = '{'.$table->id().'}';
        array_push(
            $candidates,
            "$stem/$id",
            "$bare/$id",
            "$stem.php?id=$id",
            "index.php?id=$id",
            "?id=$id",
            "?$stem=$id",
            "?p=$id",
            $id,
        );
        $all = [];
        foreach ($candidates as $candidate) {
            $all[] = [$candidate, null];
            if ($language !== null && str_starts_with($candidate, '{'.$language.'}/')) {
                foreach (array_slice($table->columns[$language]->distinct(), 0, 5) as $own) {
                    $all[] = [$candidate, $own];
                }
            }
        }

        return $all;
    }

    /**
     * @param  list<array{string, string|null}>  $candidates
     * @param  array<string, string>  $sections
     * @return array{address: string, spell: array<string, array<string, string>>, joins: list<string>,
     *     why: string}|null
     */
    private function tried(
        TableProfile $table,
        string $title,
        array $candidates,
        array $sections,
        ?string $language,
    ): ?array {
        $columns = array_values(
            array_unique([
                (string) $table->id(),
                $title,
                ...array_filter(
                    array_map(
                        static fn (ColumnProfile $c): string => $c->type === ColumnType::Text
                        && $c->share('~\n|<~') === 0.0
                            ? $c->name
                            : '',
                        array_values($table->columns),
                    ),
                    static fn (string $c): bool => $c !== '',
                ),
                ...array_keys($sections),
            ]),
        );
        $rows = $this->samples->rows($table->name, $columns, $this->joins($table, array_values($sections)));
        $rows = $this->spread(
            array_values(array_filter($rows, static fn (array $r): bool => trim((string) $r[$title]) !== '')),
            $language,
        );
        if ($rows === []) {
            return null;
        }
        $best = null;
        foreach ($candidates as [$address, $unsaid]) {
            $met = 0;
            foreach ($rows as $n => $row) {
                // What the first few rows never show, the others will not show either.
                if ($n === 5 && $met === 0) {
                    break;
                }
                $filled = self::filled($address, $row, $language, $unsaid);
                $met += $filled !== null && $this->trial?->shows($filled, (string) $row[$title]) === true ? 1 : 0;
            }
            if ($met > ($best[2] ?? 0)) {
                $best = [$address, $unsaid, $met];
            }
            if ($best !== null && $best[2] >= count($rows) * 0.8) {
                break;
            }
        }
        if ($best === null || $best[2] < max(1, self::ENOUGH * count($rows))) {
            return null;
        }
        [$address, $unsaid, $met] = $best;
        $joined = array_filter(
            $sections,
            static fn (string $to, string $c): bool => $to !== '' && str_contains($address, '{'.$c.'}'),
            ARRAY_FILTER_USE_BOTH,
        );

        return [
            'address' => $address,
            'spell' => $unsaid === null || $language === null ? [] : [$language => [$unsaid => '']],
            'joins' => array_values($joined),
            'why' => "$met of ".count($rows).' rows that were tried at this address are shown there',
        ];
    }

    /**
     * A few of each language, and from everywhere in the table.
     *
     * @param  list<array<string, string|null>>  $rows
     * @return list<array<string, string|null>>
     */
    private function spread(array $rows, ?string $language): array
    {
        $groups = [];
        foreach ($rows as $row) {
            $groups[$language === null ? '' : (string) $row[$language]][] = $row;
        }
        $each = max(2, intdiv(self::TRIED, max(1, count($groups))));
        $spread = [];
        foreach ($groups as $own) {
            $step = max(1, intdiv(count($own), $each));
            for ($n = 0; $n < $each && $n * $step < count($own); $n++) {
                $spread[$n][] = $own[$n * $step];
            }
        }
        ksort($spread);

        return array_slice(array_merge([], ...$spread), 0, self::TRIED);
    }

    /** @param  array<string, string|null>  $row */
    private static function filled(string $address, array $row, ?string $language, ?string $unsaid): ?string
    {
        $isWhole = true;
        $filled = preg_replace_callback(
            '~\{([^{}]+)\}~',
            static function (array $m) use ($row, $language, $unsaid, &$isWhole): string {
                $value = trim((string) ($row[$m[1]] ?? ''), '/');
                if ($m[1] === $language && $value === $unsaid) {
                    return '';
                }
                $isWhole = $isWhole && $value !== '';

                return $value;
            },
            $address,
        );

        return $isWhole && $filled !== null ? ltrim(preg_replace('~/{2,}~', '/', $filled) ?? '', '/') : null;
    }

    /**
     * @param  list<string>  $to
     * @return array<string, array{table: string, on: array<string, string>}>
     */
    public function joins(TableProfile $table, array $to): array
    {
        $joins = [];
        foreach ($this->relations as $relation) {
            if ($relation->table === $table->name && in_array($relation->to, $to, true)) {
                $joins[$this->joinName($relation->to)] ??= [
                    'table' => $relation->to,
                    'on' => [$relation->key => $relation->column],
                ];
            }
        }

        return $joins;
    }

    public function joinName(string $table): string
    {
        return preg_replace('~[^a-z0-9_]~', '_', Hints::stem($table, $this->prefix)) ?? 'other';
    }

    /** @param  non-empty-string  $hint */
    private function column(TableProfile $table, string $hint): ?string
    {
        foreach ($table->columns as $column) {
            if (
                $column->type === ColumnType::Text
                && Hints::say($hint, $column->name)
                && $column->values !== []
            ) {
                return $column->name;
            }
        }

        return null;
    }
}
