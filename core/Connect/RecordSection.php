<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** What a map says of one kind of record: key, joins, title, address, owners, state and fields. */
final readonly class RecordSection
{
    /**
     * @param  array<string, TableProfile>  $tables
     * @param  string  $prefix what the names of most tables begin with
     * @param  array<string, TableProfile>  $worded the same, with a column for each language, and for words that are
     *     rows
     */
    public function __construct(
        private array $tables,
        private string $prefix,
        private KindNames $kinds,
        private Carriers $carriers,
        private Pages $pages,
        private Dialogue $dialogue,
        private array $worded,
    ) {
    }

    /**
     * @param  array<string, mixed>  $fields
     * @param  list<string>  $shows paths of files that the site finds by a row's values
     * @param  list<string>  $joined tables of which its fields need a column
     * @return array<string, mixed>
     */
    public function said(
        TableProfile $table,
        array $fields,
        array $shows,
        ?PageWay $page,
        array $joined,
        bool $isAlone,
        bool $isEarlier,
    ): array {
        $key = $table->key();
        $section = ['table' => $table->name, 'key' => count($key) === 1 ? $key[0] : $key];
        array_push($joined, ...$page->joins ?? []);
        $states = new States();
        [$rules, $asked] = $states->of($table, Hints::stem($table->name, $this->prefix));
        if ($page !== null) {
            // Of what a page is a form of, as of a node that has a text in each language, the state is its own.
            foreach ($this->carriers->shows as $relation) {
                $isNear = $relation->table === $table->name && $this->isNearlyOne($relation);
                [$theirs, $more] = $isNear
                    ? $states->of(
                        $this->tables[$relation->to],
                        Hints::stem($relation->to, $this->prefix),
                        $this->pages->joinName($relation->to),
                    )
                    : [[], []];
                if ($theirs !== []) {
                    $joined[] = $relation->to;
                    array_push($rules, ...$theirs);
                    array_push($asked, ...$more);
                }
            }
        }
        if ($page !== null) {
            [$rules, $asked] = $this->seen($table, $page, $rules, $asked);
        }
        foreach ($asked as $question) {
            $answer = $this->dialogue->answer($question);
            $rules = $answer === '' ? $rules : $this->withWords($rules, $question, $answer);
        }
        $joins = $this->pages->joins($table, array_values(array_unique($joined)));
        if ($page?->parent !== null) {
            $joins[Pages::UP] = ['kind' => $this->kinds->of($table->name), 'on' => $page->parent];
        }
        $worded = $this->worded[$table->name];
        $title = Titles::of($worded);
        $joins += $worded->joinsOf($title.' '.implode(' ', [$page->address ?? '', ...$page->also ?? []]));
        if ($joins !== []) {
            $section['joins'] = $joins;
        }
        if ($title !== null) {
            $section['title'] = str_contains($title, '->') ? '{'.$title.'}' : $title;
        }
        if ($page !== null) {
            $asked = $page->question;
            $address = $asked === null ? $page->address : $this->dialogue->answer($asked);
            $section['address'] = $page->also === [] ? $address : [$address, ...$page->also];
            $this->dialogue->because("$table->name.address", $page->why);
            if ($page->spell !== []) {
                $section['spell'] = $page->spell;
            }
            if ($page->dates !== []) {
                $section['dates'] = $page->dates;
            }
        }
        $owners = [];
        foreach ($this->carriers->parts as $relation) {
            $isOwn = $relation->table === $table->name && ! $relation->isInside;
            if ($isOwn && $this->kinds->of($relation->to) !== null) {
                $kind = $this->kinds->of($relation->to);
                $owners[$relation->column] =
                    $relation->by === null && $relation->between === null
                        ? $kind
                        : [
                            ...(array) ($owners[$relation->column] ?? []),
                            ...self::decidedBy($relation),
                            (string) $relation->word => $kind,
                        ];
                $this->dialogue->because(
                    "$table->name.$relation->column",
                    "it is part of what it names: $relation->why",
                );
            }
        }
        if ($owners !== []) {
            $section['part_of'] = $owners;
        }
        if ($isAlone) {
            $this->alone($table, $section);
        }
        if ($isEarlier) {
            $section['state'] = 'fading';
        } elseif ($rules !== []) {
            $section['state'] = count($rules) === 1 ? $rules[0] : $rules;
        }
        foreach ($this->carriers->shows as $relation) {
            $isOwn = $relation->table === $table->name && ! $relation->isInside;
            if ($isOwn && $this->kinds->of($relation->to) !== null) {
                $fields[$relation->column] = $this->shown($relation, $fields[$relation->column] ?? null);
                $this->dialogue->because("$table->name.$relation->column", "it shows what it names: $relation->why");
            }
        }
        if ($fields !== []) {
            $section['fields'] = array_map($this->kinds->inRule(...), $fields);
        }
        if ($table->stamps !== [] && $fields !== []) {
            $section['keep'] = $table->stamps;
            $this->dialogue->because("$table->name.keep", 'the database writes it anew whenever a row is written');
        }
        if ($shows !== []) {
            $section['shows'] = $shows;
            $this->dialogue->because(
                "$table->name.shows",
                'files that exist are called as its rows are, and no text names them',
            );
        }

        return $section;
    }

    /**
     * @param  mixed  $before what other words of the same column name
     * @return array<string, mixed>
     */
    private function shown(Relation $relation, mixed $before): array
    {
        $names = $this->kinds->of($relation->to);
        if ($relation->by !== null || $relation->between !== null) {
            $others = is_array($before) && is_array($before['names'] ?? null) ? $before['names'] : [];
            $names = [...$others, ...self::decidedBy($relation), (string) $relation->word => $names];
        }
        $rule = ['notation' => 'record-key', 'names' => $names];

        return $relation->isJson ? ['notation' => 'json', 'paths' => ['[]' => $rule]] : $rule;
    }

    /** @return array<string, string> what a map says of how the kind of a key is told */
    private static function decidedBy(Relation $relation): array
    {
        return $relation->between === null
            ? ['column' => (string) $relation->by]
            : ['between' => $relation->between];
    }

    /**
     * What is tied to no page is shown by the site's own code, most likely everywhere.
     *
     * @param  array<string, mixed>  $section added to
     */
    private function alone(TableProfile $table, array &$section): void
    {
        $question = new Question(
            "$table->name.where",
            "Where does the site show what stands in $table->name? Nothing ties it to a page.",
            ['everywhere' => 'On every page, as settings and menus are', 'nowhere' => 'Nowhere that a visitor comes'],
            [],
        );
        if ($this->dialogue->answer($question) === 'everywhere') {
            $section['everywhere'] = true;
        }
        $this->dialogue->because(
            "$table->name.where",
            'nothing ties it to a page, so that the site itself is taken to show it everywhere',
        );
    }

    /**
     * What the public site shows decides which words mean that a row is out, and then nobody need be asked.
     *
     * @param  list<array<string, mixed>>  $rules
     * @param  list<Question>  $asked
     * @return array{list<array<string, mixed>>, list<Question>}
     */
    private function seen(TableProfile $table, PageWay $page, array $rules, array $asked): array
    {
        foreach ($rules as $n => $rule) {
            $column = $rule['column'] ?? null;
            if (! is_string($column) || ! isset($rule['live'], $table->columns[$column])) {
                continue;
            }
            $live = array_keys(array_filter($this->pages->shownBy($table, $page, $column)));
            if ($live === []) {
                continue;
            }
            $shown = array_map(strval(...), $live);
            $rules[$n]['live'] = $live;
            $fading = array_values(
                array_filter(
                    (array) ($rule['fading'] ?? []),
                    static fn (mixed $word): bool => is_scalar($word) && ! in_array((string) $word, $shown, true),
                ),
            );
            unset($rules[$n]['fading']);
            $rules[$n] += $fading === [] ? [] : ['fading' => $fading];
            $this->dialogue->because(
                "$table->name.state",
                'rows with '.implode(', ', $live)." in $column were tried at the public site, and are shown there",
            );
            $asked = array_values(
                array_filter($asked, static fn (Question $q): bool => $q->id !== "$table->name.$column"),
            );
        }

        return [$rules, $asked];
    }

    /** Whether nearly every row of a table names another row. */
    private function isNearlyOne(Relation $relation): bool
    {
        $columns = $this->tables[$relation->table]->columns;
        $column = $columns[$relation->column];
        $rows = max(1, ...array_map(static fn (ColumnProfile $c): int => count($c->values), array_values($columns)));

        return count($column->values) >= 0.8 * $rows
            && count($column->distinct()) >= 0.4 * count($column->values);
    }

    /**
     * @param  list<array<string, mixed>>  $rules
     * @return list<array<string, mixed>>
     */
    private function withWords(array $rules, Question $question, string $answer): array
    {
        $column = (string) preg_replace('~^.*\.~', '', $question->id);
        foreach ($rules as $n => $rule) {
            if (is_string($rule['column'] ?? null) && preg_replace('~^.*\.~', '', $rule['column']) === $column) {
                $rules[$n]['live'] = [
                    ...(array) ($rule['live'] ?? []),
                    ...array_map(intval(...), explode(',', $answer)),
                ];
            }
        }

        return $rules;
    }
}
