<?php

declare(strict_types=1);

namespace Tests\App\Connect\Drawn;

/**
 * The tables of one drawn site: kinds of pages with columns by habits of their own, what carries and ties them, and
 * what only looks like content.
 */
final class Tables
{
    private const KINDS = ['news', 'event', 'product', 'person'];

    private readonly Draw $draw;

    private readonly Naming $naming;

    private readonly Content $content;

    private readonly bool $isDeclared;

    /** one, columns or rows: how words in two languages are kept */
    private readonly string $languages;

    /** @var array<string, array{table: string, key: string, keys: list<string>, slugs: list<string>}> */
    private array $kinds = [];

    public function __construct(private readonly DrawnSite $site)
    {
        $this->draw = $site->draw;
        $this->naming = $site->naming;
        $this->content = $site->content;
        $this->isDeclared = $this->draw->is(30);
        $this->languages = $this->draw->one(['one', 'one', 'one', 'columns', 'rows']);
        $site->habits[] = ($this->isDeclared ? 'declared' : 'undeclared').", languages $this->languages";
    }

    public function write(): void
    {
        $kinds = ['page', ...$this->draw->some(self::KINDS, $this->draw->number(1, 4))];
        foreach ($kinds as $kind) {
            if ($this->draw->is(12)) {
                (new Attributed($this->site))->write($kind, $this->draw->number(8, 24));
            } else {
                $this->kind($kind, $this->draw->number(6, 36));
            }
        }
        $beside = new Beside($this->site, $this->kinds, $this->isDeclared);
        $beside->write();
    }

    private function kind(string $meaning, int $rows): void
    {
        [$naming, $draw] = [$this->naming, $this->draw];
        $table = $naming->table($meaning);
        $column = static fn (string ...$of): string => $naming->column($meaning, ...$of);
        $key = $naming->key($meaning);
        $keys = $slugs = [];
        $isUuid = $this->site->library->keys === 'uuid' && $draw->is(60);
        $at = $draw->is(20) ? $draw->number(50, 400) : 0;
        for ($n = 1; $n <= $rows; $n++) {
            $keys[] = $isUuid ? sprintf('%08x-%04x-4000-8000-%012x', crc32("$meaning$n"), $n, $n) : (string) ($n + $at);
            $slugs[] = strtolower($meaning)."-$n";
        }
        $hasSlug = $draw->is($meaning === 'page' ? 90 : 65);
        $parent = $meaning === 'page' && $draw->is(40) ? $column('parent') : null;
        $fields = $this->fields($meaning, $hasSlug ? "/$slugs[0]" : '');
        $state = $this->state($meaning);
        $columns = [$key => $isUuid ? 'varchar(36)' : 'integer']
            + ($parent === null ? [] : [$parent => $isUuid ? 'varchar(36)' : 'integer'])
            + $this->titles($meaning)
            + ($hasSlug ? [$column('slug') => 'varchar(120)'] : [])
            + array_map(static fn (array $field): string => $field[0], $fields)
            + array_map(static fn (array $field): string => $field[0], $state)
            + ($draw->is(50) ? [$column('position') => 'integer'] : [])
            + ($draw->is(50) ? [$column('created') => 'datetime'] : []);
        $this->site->make($table, $columns, [$key], $this->foreign($fields));
        $this->kinds[$meaning] = ['table' => $table, 'key' => $key, 'keys' => $keys, 'slugs' => $hasSlug ? $slugs : []];
        foreach ($keys as $n => $of) {
            $row = [$key => $of];
            foreach (array_keys($this->titles($meaning)) as $i => $title) {
                $row[$title] = ucfirst($meaning).' '.($n + 1).($i === 0 ? '' : ' otherwise');
            }
            $row += $parent === null ? [] : [$parent => $n < 3 ? null : $keys[$n % 3]];
            $row += $hasSlug ? [$column('slug') => $slugs[$n]] : [];
            if ($hasSlug) {
                $this->site->pages["$table|$of"] = ucfirst($meaning).' '.($n + 1);
            }
            foreach ($fields as $name => [, $write]) {
                [$value, $paths] = $write($n);
                $row[$name] = $value;
                foreach ($paths as $path) {
                    $this->site->used($table, $of, $name, $path);
                }
            }
            foreach ($state as $name => [, $write]) {
                $row[$name] = $write($n);
            }
            $row += isset($columns[$column('position')]) ? [$column('position') => $n % 7] : [];
            $row += isset($columns[$column('created')]) ? [$column('created') => '2017-05-06 07:08:09'] : [];
            $this->site->put($table, $row);
        }
        if ($this->languages === 'rows' && $draw->is(60)) {
            $this->wordings($meaning, $keys, $isUuid);
        }
    }

    /** @return array<string, string> */
    private function titles(string $meaning): array
    {
        if ($this->languages === 'columns') {
            return [
                $this->naming->column($meaning, 'title', 'en') => 'varchar(160)',
                $this->naming->column($meaning, 'title', 'cy') => 'varchar(160)',
            ];
        }

        return [$this->naming->column($meaning, 'title') => 'varchar(160)'];
    }

    /** @return array<string, array{string, callable(int): (string|int|null)}> column → type, and what a row says */
    private function state(string $meaning): array
    {
        $naming = $this->naming;

        return match ($this->draw->number(1, 5)) {
            1 => [$naming->column($meaning, 'status') => ['varchar(12)', static fn (int $n): string => $n % 6 === 5
                ? 'draft' : 'published']],
            2 => [$naming->column($meaning, 'visible') => ['integer', static fn (int $n): int => (int) ($n % 6 !== 5)]],
            3 => [$naming->column($meaning, 'status') => ['integer', static fn (int $n): int => $n % 6 === 5 ? 0 : 1]],
            4 => [
                $naming->column($meaning, 'from') => ['datetime', static fn (int $n): string => '2018-01-01 00:00:00'],
                $naming->column($meaning, 'until') => ['datetime', static fn (int $n): ?string => $n % 6 === 5
                    ? '2019-01-01 00:00:00' : null],
            ],
            default => [],
        };
    }

    /**
     * @return array<string, array{string, callable(int): array{scalar|null, list<string>}, 2?: bool}> column → type,
     *     what a row says with the paths that it uses, and whether it holds keys of media
     */
    private function fields(string $meaning, string $link): array
    {
        [$naming, $draw, $content] = [$this->naming, $this->draw, $this->content];
        $fields = $this->texts($meaning, $link);
        if ($draw->is(75)) {
            $fields += $this->pictures($meaning);
        }
        if ($draw->is(35)) {
            $fields += $this->lists($meaning);
        }
        if ($draw->is(25)) {
            $shape = $draw->one(['id plain', 'id word', 'id deep', 'id plain!', 'path', 'path!']);
            $fields[$naming->column($meaning, 'blocks')] = ['text', static function () use ($content, $shape): array {
                [$blocks, $paths] = $content->blocks($shape);

                return [(string) json_encode($blocks), $paths];
            }];
        }
        if ($draw->is(10)) {
            $name = $naming->written([$naming->one($meaning), 'css']);
            $fields[$name] = ['text', static function () use ($content): array {
                [$address, $paths] = $content->address();

                return ["h1 { color: #123; }\n.top { background: url($address) no-repeat; }", $paths];
            }];
        }
        if (! in_array($this->site->library->kind, ['none', 'natural'], true) && $draw->is(10)) {
            $word = $naming->one('media');
            $fields[$naming->written([$draw->one(['shows', 'leads', 'teaser'])])] = [
                'varchar(80)',
                static function () use ($content, $word): array {
                    $item = $content->item();

                    return ["$word:{$item['key']}", [$item['path']]];
                },
            ];
        }
        if ($draw->is(15)) {
            $fields[$naming->column($meaning, 'extra')] = ['text', static function (int $n) use ($content): array {
                [$address, $paths] = $content->address();

                return [serialize(['columns' => 2, 'side' => $address, 'words' => 'é']), $paths];
            }];
        }

        return $fields;
    }

    /** @return array<string, array{string, callable(int): array{scalar|null, list<string>}}> */
    private function texts(string $meaning, string $link): array
    {
        $content = $this->content;
        $write = match ($this->draw->number(1, 10)) {
            1, 2 => static fn (int $n): array => $content->markdown($link),
            3 => static function (int $n) use ($content, $link): array {
                [$text, $paths] = $content->html($link);

                return [htmlspecialchars($text), $paths];
            },
            default => static fn (int $n): array => $content->html($link),
        };
        $naming = $this->naming;
        $names = $this->languages === 'columns'
            ? [$naming->column($meaning, 'body', 'en'), $naming->column($meaning, 'body', 'cy')]
            : [$naming->column($meaning, 'body'), ...$this->draw->is(30) ? [$naming->column($meaning, 'intro')] : []];

        return array_fill_keys($names, ['text', $write]);
    }

    /** @return array<string, array{string, callable(int): array{scalar|null, list<string>}, 2?: bool}> */
    private function pictures(string $meaning): array
    {
        [$naming, $draw, $content, $library] = [$this->naming, $this->draw, $this->content, $this->site->library];
        $word = $meaning === 'person' && $draw->is(30) ? 'logo' : 'picture';
        $rarely = $draw->one([1, 1, 2, 3]);
        $isById = $library->kind !== 'none' && $draw->is(70);
        if ($isById) {
            $names = match ($draw->number(1, 4)) {
                1 => [$naming->column($meaning, $word)],
                2 => array_map(static fn (int $i): string => $naming->column($meaning, $word, (string) $i), [1, 2, 3]),
                default => [$naming->foreign($draw->is(50) ? $naming->word($word) : $naming->one('media'))],
            };
            $type = $this->site->keyType();
            $fields = [];
            foreach ($names as $i => $name) {
                $fields[$name] = [$type, static function (int $n) use ($content, $rarely, $i): array {
                    $item = $content->item();

                    return ($n + $i) % $rarely === 0 ? [$item['key'], [$item['path']]] : [null, []];
                }, true];
            }

            return $fields;
        }
        $name = $naming->column($meaning, $word);
        $site = $this->site;
        $folder = $library->base.strtolower($naming->one($meaning)).'/';

        return [$name => ['varchar(200)', match ($draw->number(1, 3)) {
            1 => static function (int $n) use ($content, $rarely): array {
                [$address, $paths] = $content->address();

                return $n % $rarely === 0 ? [$address, $paths] : ['', []];
            },
            2 => static function (int $n) use ($content, $rarely): array {
                $item = $content->item();

                return $n % $rarely === 0 ? [$item['path'], [$item['path']]] : ['', []];
            },
            // A name, in a folder that only the site's code knows.
            default => static function (int $n) use ($library, $rarely, $site, $folder, $meaning): array {
                if ($n % $rarely !== 0) {
                    return [null, []];
                }
                $path = $site->own($library->fresh($folder, $meaning));

                return [basename($path), [$path]];
            },
        }]];
    }

    /** @return array<string, array{string, callable(int): array{scalar|null, list<string>}}> */
    private function lists(string $meaning): array
    {
        [$draw, $content, $library] = [$this->draw, $this->content, $this->site->library];
        $between = $draw->one([',', ', ', ';', '|', ' ', "\n", '||', '[]', '["]', '/']);
        $isById = $library->kind !== 'none' && $draw->is(70);
        // What holds a dot or a slash is told apart by other signs.
        if ((! $isById || $library->kind === 'natural') && in_array($between, [' ', '/', ', '], true)) {
            $between = "\n";
        }
        $this->site->habits[] = 'list of '.($isById ? 'ids' : 'paths').' by '.json_encode($between);

        return [$this->naming->column($meaning, 'gallery') => ['text', static function (int $n) use (
            $content,
            $draw,
            $between,
            $isById,
        ): array {
            $parts = $paths = [];
            for ($i = $draw->number(0, 4); $i > 0; $i--) {
                $item = $content->item();
                $parts[] = $isById ? $item['key'] : '/'.str_replace(' ', '%20', $item['path']);
                $paths[] = $item['path'];
            }
            if ($parts === []) {
                return [null, []];
            }

            return [match ($between) {
                '||' => '|'.implode('|', $parts).'|',
                '[]' => (string) json_encode(array_map(Content::key(...), $parts)),
                '["]' => (string) json_encode($parts),
                default => implode($between, $parts),
            }, $paths];
        }]];
    }

    /**
     * @param  array<string, array{string, callable(int): array{scalar|null, list<string>}, 2?: bool}>  $fields
     * @return array<string, array{string, string}>
     */
    private function foreign(array $fields): array
    {
        $media = [$this->naming->table('media'), $this->naming->key('media')];

        return $this->isDeclared ? array_map(
            static fn (array $field): array => $media,
            array_filter($fields, static fn (array $field): bool => $field[2] ?? false),
        ) : [];
    }

    /**
     * Words of a row in other languages, as rows of another table.
     *
     * @param  list<string>  $keys
     */
    private function wordings(string $meaning, array $keys, bool $isUuid): void
    {
        $naming = $this->naming;
        $table = $naming->table($meaning, 'wording');
        $column = static fn (string ...$of): string => $naming->column('wording', ...$of);
        [$id, $owner] = [$naming->key('wording'), $naming->keyOf($meaning)];
        $this->site->make($table, [
            $id => 'integer',
            $owner => $isUuid ? 'varchar(36)' : 'integer',
            $column('language') => 'varchar(5)',
            $column('title') => 'varchar(160)',
            $column('body') => 'text',
        ], [$id]);
        $n = 0;
        foreach ($keys as $key) {
            foreach (['en', 'cy'] as $language) {
                [$text, $paths] = $this->content->html('');
                $this->site->put($table, [
                    $id => ++$n,
                    $owner => $key,
                    $column('language') => $language,
                    $column('title') => "Title $n",
                    $column('body') => $text,
                ]);
                foreach ($paths as $path) {
                    $this->site->used($table, $n, $column('body'), $path);
                }
            }
        }
    }
}
