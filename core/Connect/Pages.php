<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Sites\Hole;

/** Finds which tables are public pages, and at which address each row is met. */
final readonly class Pages
{
    /** The join by which a page's row is tied to the one above it. */
    public const UP = 'up';

    /** What a page's row is asked for by: rows that are tried at the public site. */
    private const TRIED = 8;

    /** Rows with one word for their state that are tried. */
    private const EACH = 3;

    /** So many of them must be met, where some may not be out. */
    private const ENOUGH = 0.4;

    /** Of all rows, so many spell their title in a column that is the name in addresses. */
    private const SPELT = 0.6;

    /** Different words before a column is no section any more. */
    private const SECTIONS = 60;

    private const SECTION =
        '~(?:section|categ|kind|type|area|rubric|channel|topic|group|folder|dir|path|slug|code|department|'
        .'collection)~i';

    private const PIECE = '~^[\pL\pN][\pL\pN._/-]*$~u';

    private const HOME = '~^/?(?:home|index|start|front|frontpage|welcome|root|main|startseite|accueil)(?:page)?$~i';

    private const ENDS = ['', '/', '.html', '.htm', '.php'];

    /** Tables that are pages by their own names, where no column says an address. */
    private const CALLED =
        '~(?:^|_)(?:pages?|posts?|articles?|entr(?:y|ies)|nodes?|news|stor(?:y|ies)|events?|products?|items?|'
        .'recipes?|contents?|documents?|topics?|projects?|exhibits?|species)$~i';

    /** @var array<string, true> what known addresses end in */
    private array $ends;

    /**
     * @param  array<string, TableProfile>  $tables
     * @param  list<Relation>  $relations
     * @param  list<string>  $known addresses of pages, below the root
     */
    public function __construct(
        private array $tables,
        private array $relations,
        private string $prefix,
        private Samples $samples,
        private ?AddressTrial $trial,
        private array $known = [],
    ) {
        $ends = [];
        foreach ($known as $address) {
            $path = preg_replace('~\?.*$|(?:\.html?|\.php|/)$~i', '', $address) ?? '';
            $ends[basename($path)] = true;
            // Some columns hold the name with its ending.
            $ends[basename(preg_replace('~\?.*$~', '', $address) ?? '')] = true;
        }
        $this->ends = $ends;
    }

    /**
     * @return PageWay|null null where a table is no page
     */
    public function of(TableProfile $table): ?PageWay
    {
        $title = Titles::of($table);
        if ($title === null || $table->id() === null || Hints::say(Hints::WAYS, $table->name)) {
            return null;
        }
        $slug = $this->slug($table) ?? $this->linked($table) ?? $this->spelt($table, $title);
        $language = $this->language($table);
        $named = $this->sections($table, $slug, $language, $title);
        // What stands in known addresses is told by them, whatever it is called.
        $sections = $this->sections($table, $slug, $language, $title, false);
        $dates = $this->dates($table);
        $parent = $this->parent($table);
        $rows = $this->rows($table, $title, $sections, $dates, $parent);
        $learned = (new LearnedAddresses(
            $this->known,
            $slug,
            (string) $table->id(),
            [...$language === null ? [] : [$language], ...array_map(strval(...), array_keys($sections))],
            array_map(strval(...), array_keys($dates)),
            $parent,
        ))->of($rows);
        // Numbers stand in many addresses; without the table's own name before them, only the public site can tell.
        $speaking = array_filter(
            $learned,
            fn (string $way): bool => ($slug !== null && str_contains($way, '{'.$slug.'}'))
                || str_contains(strtolower($way), Hints::stem($table->name, $this->prefix)),
            ARRAY_FILTER_USE_KEY,
        );
        $learned = $this->trial === null ? $speaking : $learned;
        $isCalledSo = $slug !== null || preg_match(self::CALLED, $table->name) === 1;
        $candidates = [
            ...array_map(static fn (string $way): array => [$way, null], array_map(strval(...), array_keys($learned))),
            ...$isCalledSo ? $this->candidates($table, $slug, $language, array_keys($named)) : [],
        ];
        $filling = new AddressFilling($rows, (string) $table->id(), $parent, $language);
        $found =
            $this->trial === null
                ? null
                : $this->tried($title, array_filter([$slug, $table->id()]), $candidates, $rows, $filling, $language);
        $found ??= $this->untried($table, $slug, $language, $speaking, count($rows), $candidates);
        if ($found === null) {
            return null;
        }
        [$address, $spell, $why, $question] = $found;
        if ($slug !== null && str_contains($address, '{'.$slug.'}')) {
            $spell += $this->home($slug, $title, $rows);
        }
        $isIn = static fn (string $column): bool => str_contains($address, '{'.$column);

        return new PageWay(
            $address,
            $spell,
            array_values(
                array_filter(
                    $sections,
                    static fn (string $to, string $column): bool => $to !== '' && $isIn("$column}"),
                    ARRAY_FILTER_USE_BOTH,
                ),
            ),
            $why,
            $question,
            array_filter(
                $dates,
                static fn (string $form, string $column): bool => $form !== 'date' && $isIn("$column."),
                ARRAY_FILTER_USE_BOTH,
            ),
            $isIn(self::UP.'.address') ? $parent : null,
            $slug === null || $question !== null ? [] : $this->inOtherLanguages($table, $slug, $rows),
        );
    }

    /**
     * Where a row has a name in addresses for each language, those of the others, as far as the site links to them.
     *
     * @param  list<array<string, string|null>>  $rows
     * @return list<string>
     */
    private function inOtherLanguages(TableProfile $table, string $slug, array $rows): array
    {
        $also = [];
        foreach ($this->slugs($table) as $other) {
            if ($other === $slug || Hints::withoutLanguage($other) !== Hints::withoutLanguage($slug)) {
                continue;
            }
            $ways = (new LearnedAddresses($this->known, $other, (string) $table->id(), [], [], null))->of($rows);
            foreach ($ways as $way => $met) {
                $isTelling = $met >= min(LearnedAddresses::TELLING, count($rows));
                if ($isTelling && str_contains((string) $way, '{'.$other.'}')) {
                    $also[] = (string) $way;
                    break;
                }
            }
        }

        return $also;
    }

    /**
     * What is most likely where the public site was not asked, or did not show it.
     *
     * @param  array<string, int>  $speaking addresses that were learned → rows that are known by them
     * @param  list<array{string, string|null}>  $candidates
     * @return array{string, array<string, array<string, string>>, string, Question|null}|null as of what was tried, and
     *     what is asked
     */
    private function untried(
        TableProfile $table,
        ?string $slug,
        ?string $language,
        array $speaking,
        int $rows,
        array $candidates,
    ): ?array {
        $way = (string) array_key_first($speaking);
        if ($way !== '' && $speaking[$way] >= min(LearnedAddresses::TELLING, $rows)) {
            // What the public site was asked for, and did not show, is asked about.
            $isMost = $this->trial === null && $rows <= $speaking[$way] * 2;

            return [
                $way,
                [],
                "$speaking[$way] of $rows sampled rows are linked to at such an address",
                $isMost ? null : $this->question($table, $slug ?? (string) $table->id(), $way, $candidates),
            ];
        }
        if ($slug === null) {
            return null;
        }
        $own = $language === null ? '{'.$slug.'}' : '{'.$language.'}/{'.$slug.'}';

        return [
            $own,
            [],
            'its rows have names that an address is made of; no address that was tried showed one',
            $this->question($table, $slug, $own, $candidates),
        ];
    }

    /**
     * Which words of a column the rows have that visitors are shown.
     *
     * @return array<string, bool> word → whether most of the rows that have it, and were tried, are shown
     */
    public function shownBy(TableProfile $table, PageWay $way, string $column): array
    {
        $title = Titles::of($table);
        if ($this->trial === null || $title === null) {
            return [];
        }
        $language = $this->language($table);
        $parent = $this->parent($table);
        $sections = array_filter(
            $this->sections($table, $this->slug($table), $language, $title, false),
            static fn (string $to): bool => in_array($to, $way->joins, true),
        );
        $rows = $this->rows($table, $title, $sections, $this->dates($table), $parent, $column);
        $filling = new AddressFilling($rows, (string) $table->id(), $parent, $language);
        $unsaid = $language === null ? null : array_search('', $way->spell[$language] ?? [], true);
        $tried = [];
        foreach ($rows as $row) {
            $word = (string) $row[$column];
            if (count($tried[$word] ?? []) < self::EACH) {
                $address = $filling->of($way->address, $row, is_string($unsaid) ? $unsaid : null);
                $tried[$word][] = $address !== null && $this->trial->shows($address, (string) $row[$title]);
            }
        }

        return array_map(static fn (array $own): bool => count(array_filter($own)) * 2 > count($own), $tried);
    }

    /**
     * The row that the site shows at its root.
     *
     * @param  list<array<string, string|null>>  $rows
     * @return array<string, array<string, string>> the column, and how its word stands in addresses
     */
    private function home(string $slug, string $title, array $rows): array
    {
        foreach ($rows as $row) {
            $isCalledSo = preg_match(self::HOME, (string) $row[$slug]) === 1;
            if ($isCalledSo && $this->trial?->shows('', (string) $row[$title]) === true) {
                return [$slug => [(string) $row[$slug] => '']];
            }
        }

        return [];
    }

    /** @param  list<array{string, string|null}>  $candidates */
    private function question(TableProfile $table, string $slug, string $own, array $candidates): Question
    {
        $ways = array_values(array_unique([$own, ...array_column(array_slice($candidates, 0, 8), 0)]));

        return new Question(
            "$table->name.address",
            "At which address does a visitor meet a row of $table->name?",
            array_combine($ways, $ways),
            array_slice($table->columns[$slug]->distinct(), 0, 5),
        );
    }

    /** @return array<string, string> column with moments → how they are written */
    private function dates(TableProfile $table): array
    {
        $dates = [];
        foreach ($table->columns as $column) {
            $form = $column->type === ColumnType::Rounded ? null : States::form($column);
            if ($form === 'date' || $form === 'unix') {
                $dates[$column->name] = $form;
            }
        }

        return $dates;
    }

    private function parent(TableProfile $table): ?string
    {
        foreach ($this->relations as $relation) {
            $isOwn = $relation->table === $table->name && $relation->to === $table->name;
            if ($isOwn && $relation->key === $table->id()) {
                return $relation->column;
            }
        }

        return null;
    }

    /**
     * @param  array<string, string>  $sections
     * @param  array<string, string>  $dates
     * @return list<array<string, string|null>> those with a title; moments as dates
     */
    private function rows(
        TableProfile $table,
        string $title,
        array $sections,
        array $dates,
        ?string $parent,
        ?string $also = null,
    ): array {
        $short = array_filter(
            $table->columns,
            static fn (ColumnProfile $c): bool => $c->type === ColumnType::Text && $c->share('~\n|<~') === 0.0,
        );
        $columns = array_values(
            array_unique([
                (string) $table->id(),
                $title,
                ...array_map(strval(...), array_keys($short)),
                ...array_map(strval(...), array_keys($dates)),
                ...$parent === null ? [] : [$parent],
                ...$also === null ? [] : [$also],
                ...array_map(strval(...), array_keys($sections)),
            ]),
        );
        $holes = array_combine($columns, array_map(Hole::of(...), $columns));
        $rows = $this->samples->rows(
            $table->name,
            array_values(array_unique(array_column($holes, 'column'))),
            $this->joins($table, array_values($sections)) + $table->joins,
        );
        // What stands inside of json is a column here.
        foreach (array_filter($holes, static fn (Hole $hole): bool => $hole->key !== null) as $name => $hole) {
            foreach ($rows as $n => $row) {
                $rows[$n][$name] = $hole->said((string) $row[$hole->column]);
            }
        }
        $rows = array_values(array_filter($rows, static fn (array $r): bool => trim((string) $r[$title]) !== ''));
        foreach (array_keys($dates, 'unix', true) as $column) {
            foreach ($rows as $n => $row) {
                $rows[$n][$column] = is_numeric($row[$column]) ? gmdate('Y-m-d', (int) $row[$column]) : null;
            }
        }

        return $rows;
    }

    private function slug(TableProfile $table): ?string
    {
        return $this->slugs($table)[0] ?? null;
    }

    /** @return list<string> columns with the name of a row in addresses */
    private function slugs(TableProfile $table): array
    {
        $slugs = [];
        foreach ($table->columns as $column) {
            if (
                $column->type === ColumnType::Text
                && (Hints::say(Hints::SLUG, $column->called())
                    || (Hints::say(Hints::LINK_NAME, $column->called()) && $column->share('~/~') === 0.0))
                && $column->values !== []
                && $column->share('~^/?[\pL\pN][\pL\pN._/-]*$~u') >= 0.9
                && $column->share('~\.(?:jpe?g|png|gif|webp|svg|pdf|mp4|css|js)$~i') < 0.1
                && count($column->distinct()) >= 0.5 * count($column->values)
            ) {
                $slugs[] = $column->name;
            }
        }

        return $slugs;
    }

    /** A column whose words addresses end in, whatever it is called. */
    private function linked(TableProfile $table): ?string
    {
        foreach ($table->columns as $column) {
            $isName =
                $column->type === ColumnType::Text
                && $column->share('~^[\pL\pN][\pL\pN._-]{1,120}$~u') === 1.0
                && $column->share('~\pL~u') === 1.0
                && count($column->distinct()) >= 0.9 * count($column->values);
            if (! $isName) {
                continue;
            }
            $met = array_intersect_key($this->ends, array_flip($column->distinct()));
            if (count($met) >= LearnedAddresses::TELLING) {
                return $column->name;
            }
        }

        return null;
    }

    /** A column that spells the title as addresses do, whatever it is called. */
    private function spelt(TableProfile $table, string $title): ?string
    {
        foreach ($table->columns as $column) {
            $couldBe = $column->type === ColumnType::Text && $column->name !== $title && $column->values !== []
                && $column->share('~^[a-z0-9][a-z0-9._-]*$~') === 1.0
                && $column->share('~[a-z]-|-[a-z]~') > 0.0
                && count($column->distinct()) >= 0.9 * count($column->values);
            if (! $couldBe) {
                continue;
            }
            $rows = array_filter(
                $this->samples->rows($table->name, [$title, $column->name], $table->joins),
                static fn (array $row): bool => ($row[$title] ?? '') !== '' && ($row[$column->name] ?? '') !== '',
            );
            $spelt = array_filter(
                $rows,
                static fn (array $row): bool => self::letters((string) $row[$title])
                    === self::letters((string) $row[$column->name]),
            );
            if ($rows !== [] && count($spelt) >= self::SPELT * count($rows)) {
                return $column->name;
            }
        }

        return null;
    }

    /** Letters and digits, as far as both spellings have them. */
    private static function letters(string $text): string
    {
        return (string) preg_replace('~[^a-z0-9]+~', '', strtolower($text));
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
    private function sections(
        TableProfile $table,
        ?string $slug,
        ?string $language,
        string $title,
        bool $byName = true,
    ): array {
        $sections = [];
        foreach ($table->columns as $column) {
            if (! in_array($column->name, [$slug, $language, $title], true) && $this->isSection($column, $byName)) {
                $sections[$column->name] = '';
            }
        }
        foreach ($this->relations as $relation) {
            if ($relation->table === $table->name && $relation->to !== $table->name) {
                foreach ($this->tables[$relation->to]->columns as $column) {
                    if ($this->isSection($column, $byName)) {
                        $sections[$this->joinName($relation->to).'.'.$column->name] = $relation->to;
                    }
                }
            }
        }

        return $sections;
    }

    private function isSection(ColumnProfile $column, bool $byName): bool
    {
        return $column->type === ColumnType::Text
            && $column->values !== []
            && count($column->distinct()) <= self::SECTIONS
            && $column->share(self::PIECE) === 1.0
            && (! $byName || preg_match(self::SECTION, $column->name) === 1);
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
     * Whether a row that does not exist is shown with the title of this one.
     *
     * @param  array<string, string|null>  $row
     * @param  array<string>  $own the columns that tell a row from the others
     */
    private function showsAnyway(
        string $address,
        array $row,
        string $title,
        array $own,
        AddressFilling $filling,
        ?string $unsaid,
    ): bool {
        $none = $row;
        foreach ($own as $column) {
            $none[$column] = preg_match('~^\d+$~', (string) $row[$column]) === 1 ? '987654321' : 'none-of-these';
        }
        $filled = $filling->of($address, $none, $unsaid);

        return $filled !== null && $this->trial?->shows($filled, (string) $row[$title]) === true;
    }

    /**
     * @param  array<string>  $own the columns that tell a row from the others
     * @param  list<array{string, string|null}>  $candidates
     * @param  list<array<string, string|null>>  $all
     * @return array{string, array<string, array<string, string>>, string, null}|null address, spelling, and what speaks
     *     for it
     */
    private function tried(
        string $title,
        array $own,
        array $candidates,
        array $all,
        AddressFilling $filling,
        ?string $language,
    ): ?array {
        $rows = $this->spread($all, $language);
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
                $filled = $filling->of($address, $row, $unsaid);
                $isShown = $filled !== null && $this->trial?->shows($filled, (string) $row[$title]) === true;
                // What another address shows as well stands in a menu, or the site does not look at this part.
                $met += $isShown && ! $this->showsAnyway($address, $row, $title, $own, $filling, $unsaid) ? 1 : 0;
                if ($isShown && $met === 0) {
                    break;
                }
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

        return [
            $address,
            $unsaid === null || $language === null ? [] : [$language => [$unsaid => '']],
            "$met of ".count($rows).' rows that were tried at this address are shown there',
            null,
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
            // Mixed, and always the same ones: every third row may well be of one kind.
            usort($own, static fn (array $a, array $b): int => self::lot($a) <=> self::lot($b));
            foreach (array_slice($own, 0, $each) as $n => $row) {
                $spread[$n][] = $row;
            }
        }
        ksort($spread);

        return array_slice(array_merge([], ...$spread), 0, self::TRIED);
    }

    /** @param  array<string, string|null>  $row */
    private static function lot(array $row): string
    {
        return hash('xxh32', implode("\0", $row));
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
        return Hints::joinName($table, $this->prefix);
    }
}
