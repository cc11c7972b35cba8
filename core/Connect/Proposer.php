<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\SiteAddresses;
use Ylema\Plan\Words;

/** Works out a whole field map from a database that nobody described, the site's files and its public pages. */
final class Proposer
{
    /** Kinds that Ylema has words of its own for, by what tables are commonly called. */
    private const KINDS = [
        'page' => 'page',
        'node' => 'node',
        'entry' => 'page',
        'article' => 'page',
        'content' => 'page',
        'post' => 'post',
        'news' => 'post',
        'banner' => 'banner',
        'ad' => 'banner',
        'advert' => 'banner',
        'banner_set' => 'banner-set',
        'slot' => 'slot',
        'region' => 'slot',
        'gallery' => 'gallery',
        'album' => 'gallery',
        'setting' => 'setting',
        'option' => 'setting',
        'config' => 'setting',
        'revision' => 'version',
        'version' => 'version',
        'history' => 'version',
        'style' => 'style-sheet',
        'layout' => 'layout',
    ];

    /** Names that many sites give the smaller pictures which they make by themselves. */
    private const RENDITIONS = [
        '{name}.w{width}.{ext}' => '~^(.+)\.w\d+(\.[a-z0-9]+)$~i',
        '{name}-{width}x{height}.{ext}' => '~^(.+)-\d+x\d+(\.[a-z0-9]+)$~i',
        '{name}_{width}x{height}.{ext}' => '~^(.+)_\d+x\d+(\.[a-z0-9]+)$~i',
        '{name}-{width}w.{ext}' => '~^(.+)-\d+w(\.[a-z0-9]+)$~i',
        '{name}_{width}.{ext}' => '~^(.+)_\d{2,4}(\.[a-z0-9]+)$~i',
        '{name}@{scale}x.{ext}' => '~^(.+)@\dx(\.[a-z0-9]+)$~i',
        '{name}_thumb.{ext}' => '~^(.+)_thumb(\.[a-z0-9]+)$~i',
        '{name}-thumb.{ext}' => '~^(.+)-thumb(\.[a-z0-9]+)$~i',
        '{name}_small.{ext}' => '~^(.+)_small(\.[a-z0-9]+)$~i',
        '{name}.{ext}.webp' => '~^(.+)(\.(?:jpe?g|png))\.webp$~i',
    ];

    /** @var array<string, TableProfile> */
    private array $tables = [];

    /** @var array<string, string> */
    private array $leftOut = [];

    /** @var array<string, string> */
    private array $evidence = [];

    /** @var array<string, Question> */
    private array $questions = [];

    private string $prefix = '';

    /** @var array<string, string> table → kind */
    private array $kinds = [];

    /** @param  array<string, string>  $answers question → answer, from before */
    public function __construct(
        private readonly Samples $samples,
        private readonly FileLookup $files,
        private readonly SiteAddresses $addresses,
        private readonly ?AddressTrial $trial = null,
        private readonly array $answers = [],
    ) {
    }

    public function propose(): Proposal
    {
        $this->gather();
        $made = new OwnAddresses($this->files, $this->addresses, TableProfile::texts($this->tables));
        $relations = new Relations($this->tables, $this->prefix, $this->samples);
        $ties = $relations->all();
        $media = (new MediaTables(
            $this->tables,
            $ties,
            $this->samples,
            $this->files,
            $this->addresses,
            $made,
            $this->prefix,
        ))->find();
        $looker = new Looker($this->addresses, $this->files, $made);
        $fields = new Fields($this->tables, $looker, $relations, $ties, $this->samples, $media, $this->prefix);
        $worded = array_map(static fn (TableProfile $t): TableProfile => $t->withLanguages(), $this->tables);
        $pages = new Pages($worded, $ties, $this->prefix, $this->samples, $this->trial, $this->known());
        $redirects = $this->redirects();
        $words = $media === null ? null : $this->wordsOf($media, $ties);
        $outside = array_filter([
            $media?->table->name,
            $media->sizes['table'] ?? null,
            $words['table'] ?? null,
            $redirects['table'] ?? null,
        ]);

        $rules = $pairs = $addresses = [];
        foreach ($this->tables as $name => $table) {
            if (in_array($name, $outside, true)) {
                continue;
            }
            $pairs[$name] = $fields->pair($table);
            [$own, $why, $asked] = $fields->of($table, $pairs[$name]);
            $own = (new Folders($this->samples, $this->files))->said($table, $own);
            foreach ($asked as $question) {
                [$column, $answer] = [substr($question->id, strlen($name) + 1), $this->answer($question)];
                if ($answer === 'media-id') {
                    $own[$column] = 'media-id';
                }
            }
            $rules[$name] = $own;
            foreach ($why as $column => $sentence) {
                $this->evidence["$name.$column"] = $sentence;
            }
            if ($pairs[$name] === null && ! Hints::say(Hints::EARLIER, $name)) {
                $address = $pages->of($worded[$name]);
                if ($address !== null) {
                    $addresses[$name] = $address;
                }
            }
        }
        // Keys inside of json show what they name.
        foreach ($rules as $name => $own) {
            foreach ($own as $column => $rule) {
                foreach (is_array($rule) && is_array($rule['paths'] ?? null) ? $rule['paths'] : [] as $path) {
                    if (is_array($path) && is_string($path['names'] ?? null)) {
                        $to = $this->tables[$path['names']];
                        $why = 'keys of it stand in its json';
                        $ties[] = new Relation($name, $column, $to->name, (string) $to->id(), $why, isInside: true);
                    }
                }
            }
        }
        // What names media beside other things shows both, and is a part of neither.
        $ties = array_values(
            array_filter(
                $ties,
                static fn (Relation $r): bool => $r->between === null || ! isset($rules[$r->table][$r->column]),
            ),
        );
        [$tokens, $placed] = (new Tokens($this->tables, $this->prefix, $relations, $looker, $media))->in(
            $this->texts($rules),
        );
        $earlier = array_values(
            array_filter(
                array_map(strval(...), array_keys($this->tables)),
                static fn (string $t): bool => Hints::say(Hints::EARLIER, $t),
            ),
        );
        // A setting, a menu: what holds pictures and is tied to nothing, the site's own code shows.
        $holding = array_values(
            array_filter(array_map(strval(...), array_keys($rules)), static fn (string $t): bool => $rules[$t] !== []),
        );
        $carriers = new Carriers($ties, array_map(strval(...), array_keys($addresses)), $placed, [
            ...$outside,
            ...$earlier,
        ]);
        $alone = array_values(array_diff($holding, array_keys($carriers->distance), $earlier));
        $carriers = new Carriers($ties, [...array_map(strval(...), array_keys($addresses)), ...$alone], $placed, [
            ...$outside,
            ...$earlier,
        ]);
        $needed = array_values(
            array_unique([
                ...$carriers->needed(array_values(array_diff($holding, $earlier))),
                ...array_map(strval(...), array_keys($addresses)),
                ...$placed,
                ...array_intersect($earlier, $holding),
            ]),
        );
        $needed = array_values(array_filter($needed, $this->hasKey(...)));
        $this->nameKinds($needed, $addresses);
        $records = [];
        foreach ($needed as $name) {
            $records[$this->kinds[$name]] = $this->kind(
                $this->tables[$name],
                $rules[$name] ?? [],
                $addresses[$name] ?? null,
                isset($pairs[$name][2]) ? [$pairs[$name][2]->to] : [],
                $carriers,
                $pages,
                in_array($name, $alone, true),
                in_array($name, $earlier, true),
            );
        }
        $this->belong($media);
        foreach (array_diff(array_map(strval(...), array_keys($this->tables)), $needed, $outside) as $name) {
            $this->leftOut[$name] ??= 'nothing in it names a file, and nothing that does is tied to it';
        }
        $map = ['version' => 1];
        if ($media !== null) {
            $ways = (new MediaWays($this->addresses, $this->files, $relations, $media))->in(
                TableProfile::texts($this->tables),
            );
            $map['media'] = $this->media($media, $words, $ways);
            $this->evidence['media'] =
                "$media->files of $media->rows sampled rows of {$media->table->name} name a file that exists";
        }
        $map['files'] = array_filter(
            [
                'folders' => $this->folders(),
                'renditions' => $this->renditions(),
                'schemes' => array_map(self::folder(...), $made->schemes()),
                'scripts' => array_map(self::folder(...), $made->scripts()),
            ],
            static fn (mixed $v): bool => $v !== [],
        );
        foreach ($tokens as $token) {
            // A record that texts place by its name is known by its name.
            if (
                is_string($token['by'] ?? null)
                && is_string($token['names'] ?? null)
                && isset($this->kinds[$token['names']])
            ) {
                $records[$this->kinds[$token['names']]]['key'] = $token['by'];
            }
        }
        $tokens = array_map($this->named(...), $tokens);
        if ($tokens !== []) {
            $map['tokens'] = $tokens;
        }
        if ($redirects !== null) {
            $map['redirects'] = $redirects;
        }
        $map += array_filter(
            (new Attributes($looker))->in($this->texts($rules)),
            static fn (array $own): bool => $own !== [],
        );
        $map['records'] = $records;

        return new Proposal($map, $this->evidence, array_values($this->questions), $this->leftOut);
    }

    /** A folder of another site has files as well, and nothing in the database names any of them. */
    private function belong(?MediaTable $media): void
    {
        $isNamed = $media !== null || preg_grep('~with files that exist|ids of media~', $this->evidence) !== [];
        if ($isNamed || $this->tables === []) {
            return;
        }
        $this->answer(new Question(
            'files.folder',
            $this->files->count() === 0
                ? 'No file lies in the folder of the files. Is it the folder of this site?'
                : 'Nothing in the database names any of the '.Words::many($this->files->count(), 'file')
                    .' in the folder. Is it the folder of this site?',
            ['no' => 'No: then go back and say another one', 'yes' => 'Yes, no content shows them'],
            [],
        ));
    }

    /** @return list<string> addresses of pages: those that the site itself links to, and those in its texts */
    private function known(): array
    {
        return array_values(
            array_unique([...$this->trial?->known() ?? [], ...(new Links($this->addresses))->in(
                TableProfile::texts($this->tables),
            )]),
        );
    }

    private function gather(): void
    {
        $all = [];
        foreach ($this->samples->tables() as $table) {
            $all[$table->name] = $table;
        }
        $this->prefix = Hints::prefix(array_map(strval(...), array_keys($all)));
        foreach ($all as $name => $table) {
            $bare = str_starts_with($name, $this->prefix) ? substr($name, strlen($this->prefix)) : $name;
            if ($table->rows === 0) {
                $this->leftOut[$name] = 'it is empty';
            } elseif (Hints::say(Hints::PASSING, $bare)) {
                $this->leftOut[$name] = 'by its name it holds copies or notes, which no visitor is shown';
            } else {
                $this->tables[$name] = $table;
            }
        }
    }

    private function answer(Question $question): string
    {
        // What a page is a form of is asked about once, though both follow from it.
        $this->questions[$question->id] = $question;

        return $this->answers[$question->id] ?? (string) array_key_first($question->answers);
    }

    private function hasKey(string $table): bool
    {
        if ($this->tables[$table]->key() !== []) {
            return true;
        }
        $this->leftOut[$table] = 'nothing names its rows: it has no key, and no column that is unique';

        return false;
    }

    /** @return array{table: string, from: string, to: string, code?: string}|null */
    private function redirects(): ?array
    {
        foreach ($this->tables as $table) {
            $from = $to = $code = null;
            foreach ($table->columns as $column) {
                $isAddress =
                    $column->type === ColumnType::Text
                    && $column->share('~^(?:https?:/)?/~i') >= 0.8
                    && $column->values !== [];
                $from ??= $isAddress && Hints::say(Hints::OLD, $column->name) ? $column->name : null;
                $to ??= $isAddress && Hints::say(Hints::NEW, $column->name) ? $column->name : null;
                $code ??=
                    $column->share('~^(?:30[1278]|410)$~') === 1.0 && Hints::say(Hints::CODE, $column->name)
                        ? $column->name
                        : null;
            }
            if ($from !== null && $to !== null && $from !== $to) {
                return [
                    'table' => $table->name,
                    'from' => $from,
                    'to' => $to,
                    ...$code === null ? [] : ['code' => $code],
                ];
            }
        }

        return null;
    }

    /**
     * A table with the words of media in several languages.
     *
     * @param  list<Relation>  $ties
     * @return array{table: string, on: string, where: string|null, columns: array<string, string>}|null
     */
    private function wordsOf(MediaTable $media, array $ties): ?array
    {
        foreach ($ties as $tie) {
            $table = $this->tables[$tie->table];
            if ($tie->to !== $media->table->name || $tie->table === ($media->sizes['table'] ?? '')) {
                continue;
            }
            $columns = $this->words($table);
            if (! isset($columns['alt'])) {
                continue;
            }
            $language = null;
            foreach ($table->columns as $column) {
                $language ??=
                    Hints::say(Hints::LANGUAGE, $column->name) && $column->values !== [] ? $column : null;
            }
            if (
                $table->isUnique([$tie->column])
                || ($language !== null && $table->isUnique([$tie->column, $language->name]))
            ) {
                $first = $language === null ? null : $language->values[0];

                return [
                    'table' => $table->name,
                    'on' => $tie->column,
                    'where' => $first === null ? null : "$language->name = '".str_replace("'", "''", $first)."'",
                    'columns' => $columns,
                ];
            }
        }

        return null;
    }

    /** @return array<string, string> title, alt, caption or credit → column */
    private function words(TableProfile $table): array
    {
        $words = [];
        foreach (Hints::WORDS as $word => $hint) {
            foreach ($table->columns as $column) {
                if (
                    $column->type === ColumnType::Text
                    && Hints::say($hint, $column->name)
                    && ! in_array($column->name, $words, true)
                ) {
                    $words[$word] ??= $column->name;
                }
            }
        }

        return $words;
    }

    /**
     * @param  array{table: string, on: string, where: string|null, columns: array<string, string>}|null  $words
     * @param  list<string>  $ways addresses at which the site's own code gives media out by their ids
     * @return array<string, mixed>
     */
    private function media(MediaTable $media, ?array $words, array $ways): array
    {
        $table = $media->table;
        $bare = preg_match('~^\{(\w+)\}$~', $media->path, $found) === 1 ? $found[1] : $media->path;
        $section = [
            'table' => $table->name,
            'key' => $table->id(),
            'path' => $bare,
            ...array_diff($this->words($table), [$bare]),
        ];
        foreach (['width', 'height'] as $side) {
            foreach ($table->columns as $column) {
                if (
                    ! isset($section[$side])
                    && preg_match("~(?:^|_)(?:$side|$side[0])$~i", $column->name) === 1
                    && $column->type === ColumnType::Number
                ) {
                    $section[$side] = $column->name;
                }
            }
        }
        if ($words !== null) {
            $section['joins'] = [
                'words' => array_filter(
                    ['table' => $words['table'], 'on' => [$words['on'] => $table->id()], 'where' => $words['where']],
                    static fn (mixed $v): bool => $v !== null,
                ),
            ];
            foreach ($words['columns'] as $word => $column) {
                $section[$word] ??= "words.$column";
            }
        }
        if ($media->joins !== []) {
            $joins = is_array($section['joins'] ?? null) ? $section['joins'] : [];
            $section['joins'] = [...$joins, ...$media->joins];
        }
        if ($media->sizes !== null) {
            $section['sizes'] = $media->sizes;
        } elseif ($media->ownSizes !== []) {
            $section['sizes'] = $media->ownSizes;
        }
        if ($ways !== []) {
            $section['page'] = count($ways) === 1 ? $ways[0] : $ways;
        }

        return $section;
    }

    /** A folder as a map says it; the root is a dot. */
    private static function folder(string $folder): string
    {
        return rtrim($folder, '/') ?: '.';
    }

    /** @return list<string> */
    private function folders(): array
    {
        $roots = array_filter($this->files->roots(), static fn (string $root): bool => $root !== '');

        return $roots === []
            ? ['.']
            : array_values(array_map(static fn (string $root): string => rtrim($root, '/'), $roots));
    }

    /** @return list<string> */
    private function renditions(): array
    {
        $found = [];
        foreach (self::RENDITIONS as $name => $pattern) {
            if ($this->files->madeFrom($pattern) >= 3) {
                $found[] = $name;
            }
        }
        foreach ($this->files->marksOfMade() as $mark) {
            $found[] = "{folder}/$mark{name}.{ext}";
        }

        return $found;
    }

    /**
     * @param  array<string, array<string, mixed>>  $rules
     * @return iterable<string>
     */
    private function texts(array $rules): iterable
    {
        foreach ($rules as $table => $own) {
            foreach ($this->tables[$table]->columns as $column) {
                if (($column->type === ColumnType::Text && $column->length === 0) || isset($own[$column->name])) {
                    yield from $column->values;
                }
            }
        }
    }

    /**
     * @param  list<string>  $tables
     * @param  array<string, mixed>  $pages
     */
    private function nameKinds(array $tables, array $pages): void
    {
        foreach ($tables as $table) {
            $stem = Hints::stem($table, $this->prefix);
            $name = self::KINDS[$stem] ?? strtr($stem, ['_' => '-']);
            $name =
                isset($pages[$table]) && preg_match('~^(?:node|page|entry|article|content)[_-]~', $stem) === 1
                    ? 'page'
                    : $name;
            $name = preg_replace('~[^a-z0-9-]~', '-', $name) ?: 'records';
            for ($n = 2, $own = $name; in_array($own, $this->kinds, true); $n++) {
                $own = $n === 2 ? strtr($stem, ['_' => '-']) : "$name-$n";
            }
            $this->kinds[$table] = $own;
        }
    }

    /**
     * @param  array<string, mixed>  $token
     * @return array<string, mixed>
     */
    private function named(array $token): array
    {
        unset($token['by']);
        if (is_string($token['names'] ?? null)) {
            $token['names'] = $this->kinds[$token['names']] ?? $token['names'];
        }
        $attributes = is_array($token['attributes'] ?? null) ? $token['attributes'] : [];
        foreach ($attributes as $attribute => $rule) {
            if (is_array($rule) && is_string($rule['names'] ?? null)) {
                $attributes[$attribute] = [...$rule, 'names' => $this->kinds[$rule['names']] ?? $rule['names']];
            }
        }
        if ($attributes !== []) {
            $token['attributes'] = $attributes;
        }

        return $token;
    }

    /**
     * @param  array<string, mixed>  $fields
     * @param  list<string>  $joined tables of which its fields need a column
     * @return array<string, mixed>
     */
    private function kind(
        TableProfile $table,
        array $fields,
        ?PageWay $page,
        array $joined,
        Carriers $carriers,
        Pages $pages,
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
            foreach ($carriers->shows as $relation) {
                $isNear = $relation->table === $table->name && $this->isNearlyOne($relation);
                [$theirs, $more] = $isNear
                    ? $states->of(
                        $this->tables[$relation->to],
                        Hints::stem($relation->to, $this->prefix),
                        $pages->joinName($relation->to),
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
            [$rules, $asked] = $this->seen($table, $page, $pages, $rules, $asked);
        }
        foreach ($asked as $question) {
            $answer = $this->answer($question);
            $rules = $answer === '' ? $rules : $this->withWords($rules, $question, $answer);
        }
        $joins = $pages->joins($table, array_values(array_unique($joined)));
        if ($page?->parent !== null) {
            $joins[Pages::UP] = ['kind' => $this->kinds[$table->name], 'on' => $page->parent];
        }
        if ($joins !== []) {
            $section['joins'] = $joins;
        }
        $title = $this->words($table->withLanguages())['title'] ?? null;
        if ($title !== null) {
            $section['title'] = str_contains($title, '->') ? '{'.$title.'}' : $title;
        }
        if ($page !== null) {
            $asked = $page->question;
            $address = $asked === null ? $page->address : $this->answer($asked);
            $section['address'] = $page->also === [] ? $address : [$address, ...$page->also];
            $this->evidence["$table->name.address"] = $page->why;
            if ($page->spell !== []) {
                $section['spell'] = $page->spell;
            }
            if ($page->dates !== []) {
                $section['dates'] = $page->dates;
            }
        }
        $owners = [];
        foreach ($carriers->parts as $relation) {
            $isOwn = $relation->table === $table->name && ! $relation->isInside;
            if ($isOwn && isset($this->kinds[$relation->to])) {
                $kind = $this->kinds[$relation->to];
                $owners[$relation->column] =
                    $relation->by === null && $relation->between === null
                        ? $kind
                        : [
                            ...(array) ($owners[$relation->column] ?? []),
                            ...self::decidedBy($relation),
                            (string) $relation->word => $kind,
                        ];
                $this->evidence["$table->name.$relation->column"] = "it is part of what it names: $relation->why";
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
        foreach ($carriers->shows as $relation) {
            $isOwn = $relation->table === $table->name && ! $relation->isInside;
            if ($isOwn && isset($this->kinds[$relation->to])) {
                $fields[$relation->column] = $this->shown($relation, $fields[$relation->column] ?? null);
                $this->evidence["$table->name.$relation->column"] = "it shows what it names: $relation->why";
            }
        }
        if ($fields !== []) {
            $section['fields'] = array_map($this->typed(...), $fields);
        }

        return $section;
    }

    /**
     * A rule in which words stand for tables, with the kinds that those became; what became none is not said.
     */
    private function typed(mixed $rule): mixed
    {
        $names = is_array($rule) ? $rule['names'] ?? null : null;
        if (! is_array($rule)) {
            return $rule;
        }
        $paths = is_array($rule['paths'] ?? null) ? $rule['paths'] : [];
        foreach ($paths as $path => $own) {
            if (is_array($own) && is_string($own['names'] ?? null)) {
                $kind = $this->kinds[$own['names']] ?? null;
                $paths[$path] = $kind === null ? null : [...$own, 'names' => $kind];
            }
        }
        if ($paths !== []) {
            $rule['paths'] = array_filter($paths, static fn (mixed $own): bool => $own !== null);
        }
        if (! is_array($names) || ! isset($names['between'])) {
            return $rule;
        }
        foreach (array_diff_key($names, ['between' => 1]) as $word => $table) {
            $names[$word] = $table === 'media' || ! is_string($table) ? $table : $this->kinds[$table] ?? null;
        }
        $rule['names'] = array_filter($names, static fn (mixed $name): bool => $name !== null);

        return $rule;
    }

    /**
     * @param  mixed  $before what other words of the same column name
     * @return array<string, mixed>
     */
    private function shown(Relation $relation, mixed $before): array
    {
        $names = $this->kinds[$relation->to];
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
        if ($this->answer($question) === 'everywhere') {
            $section['everywhere'] = true;
        }
        $this->evidence["$table->name.where"] =
            'nothing ties it to a page, so that the site itself is taken to show it everywhere';
    }

    /**
     * What the public site shows decides which words mean that a row is out, and then nobody need be asked.
     *
     * @param  list<array<string, mixed>>  $rules
     * @param  list<Question>  $asked
     * @return array{list<array<string, mixed>>, list<Question>}
     */
    private function seen(TableProfile $table, PageWay $page, Pages $pages, array $rules, array $asked): array
    {
        foreach ($rules as $n => $rule) {
            $column = $rule['column'] ?? null;
            if (! is_string($column) || ! isset($rule['live'], $table->columns[$column])) {
                continue;
            }
            $live = array_keys(array_filter($pages->shownBy($table, $page, $column)));
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
            $this->evidence["$table->name.state"] =
                'rows with '.implode(', ', $live)." in $column were tried at the public site, and are shown there";
            $asked = array_values(
                array_filter($asked, static fn (Question $q): bool => $q->id !== "$table->name.$column"),
            );
        }

        return [$rules, $asked];
    }

    /** Whether nearly every row of a table names another row. */
    private function isNearlyOne(Relation $relation): bool
    {
        $column = $this->tables[$relation->table]->columns[$relation->column];

        return count($column->distinct()) >= 0.4 * max(1, count($column->values));
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
