<?php

declare(strict_types=1);

namespace Tests\App\Connect\Drawn;

/** What stands beside the pages of a drawn site: banners in slots, settings, menus, earlier versions, and decoys. */
final readonly class Beside
{
    private Draw $draw;

    private Naming $naming;

    private Content $content;

    /**
     * @param  array<string, array{table: string, key: string, keys: list<string>, slugs: list<string>}>  $kinds
     */
    public function __construct(private DrawnSite $site, private array $kinds, private bool $isDeclared)
    {
        $this->draw = $site->draw;
        $this->naming = $site->naming;
        $this->content = $site->content;
    }

    public function write(): void
    {
        $this->settings();
        if ($this->draw->is(70)) {
            $this->banners();
        }
        if ($this->draw->is(50)) {
            $this->menu();
        }
        foreach ($this->kinds as $meaning => $kind) {
            if ($this->draw->is(20)) {
                $this->attributes($meaning, $kind);
            }
            if ($this->draw->is(20)) {
                $this->versions($meaning, $kind);
            }
            if ($this->site->library->kind !== 'none' && $this->draw->is(25)) {
                $this->pairs($meaning, $kind);
            }
        }
        if ($this->site->library->kind !== 'none' && count($this->kinds) > 1 && $this->draw->is(30)) {
            $this->attachments();
        }
        if ($this->site->library->kind !== 'none' && $this->draw->is(25)) {
            $this->galleries();
        }
        $this->redirects();
        $this->decoys();
    }

    /** Sets of pictures, rows of their own, that pages name. */
    private function galleries(): void
    {
        $naming = $this->naming;
        $word = $naming->word('gallery');
        [$table, $items] = [$naming->written([$word, 'set']), $naming->written([$word, 'set', 'entry'])];
        [$owner, $media] = [$naming->foreign($word.'_set'), $naming->keyOf('media')];
        $this->site->habits[] = 'sets of pictures';
        $this->site->make($table, ['id' => 'integer', $naming->column('slot', 'name') => 'varchar(60)'], ['id']);
        $this->site->make($items, [
            'id' => 'integer',
            $owner => 'integer',
            $media => $this->site->keyType(),
            $naming->column('attachment', 'position') => 'integer',
        ], ['id']);
        $at = 0;
        foreach (range(1, 4) as $set) {
            $this->site->put($table, ['id' => $set, $naming->column('slot', 'name') => "Set no. $set"]);
            foreach (range(1, $this->draw->number(2, 5)) as $position) {
                $item = $this->content->item();
                $this->site->put($items, [
                    'id' => ++$at,
                    $owner => $set,
                    $media => $item['key'],
                    $naming->column('attachment', 'position') => $position,
                ]);
                $this->site->used($items, $at, $media, $item['path']);
            }
        }
    }

    private function settings(): void
    {
        $library = $this->site->library;
        $isById = $library->kind !== 'none' && $this->draw->is(50);
        $item = $this->content->item();
        [$foot, $footPaths] = $this->content->html('');
        [$share, $sharePaths] = $this->content->address();
        $said = [
            'site_name' => ['The place by the sea', []],
            'site_url' => ['https://'.$this->site->host, []],
            'logo' => [$isById ? $item['key'] : '/'.str_replace(' ', '%20', $item['path']), [$item['path']]],
            'share_image' => [$share, $sharePaths],
            'footer_html' => [$foot, $footPaths],
            'per_page' => ['12', []],
            'mail_from' => ["post@{$this->site->host}", []],
        ];
        if ($this->site->former !== '') {
            $said['site_url'] = ["http://{$this->site->former}", []];
            $this->site->wrong["http://{$this->site->former}"] = true;
        }
        $table = $this->naming->table('setting');
        $form = $this->draw->one(['rows', 'rows', 'rows', 'wide', 'json', 'serialized']);
        $this->site->habits[] = "settings $form";
        [$key, $value] = [$this->naming->column('setting', 'key'), $this->naming->column('setting', 'value')];
        if ($form === 'rows') {
            $hasNumber = $this->draw->is(50);
            $id = $this->naming->key('setting');
            $this->site->make($table, ($hasNumber ? [$id => 'integer'] : []) + [
                $key => 'varchar(60)', $value => 'text',
            ], [$hasNumber ? $id : $key]);
            $n = 0;
            foreach ($said as $name => [$text, $paths]) {
                $this->site->put($table, ($hasNumber ? [$id => ++$n] : []) + [$key => $name, $value => $text]);
                foreach ($paths as $path) {
                    $this->site->used($table, $hasNumber ? $n : $name, $value, $path);
                }
            }

            return;
        }
        if ($form === 'json' || $form === 'serialized') {
            $this->site->make($table, ['id' => 'integer', $value => 'text'], ['id']);
            $tree = ['site' => ['name' => 'The place', 'url' => $said['site_url'][0], 'logo' => $isById
                ? Content::key($item['key']) : $said['logo'][0]], 'share' => ['image' => $share],
                'footer' => ['html' => $foot], 'perPage' => 12];
            $this->site->put($table, [
                'id' => 1,
                $value => $form === 'json' ? (string) json_encode($tree) : serialize($tree),
            ]);
            foreach ([$item['path'], ...$sharePaths, ...$footPaths] as $path) {
                $this->site->used($table, 1, $value, $path);
            }

            return;
        }
        $columns = ['id' => 'integer'];
        $row = ['id' => 1];
        foreach ($said as $name => [$text, $paths]) {
            $column = $this->naming->written([$name]);
            $columns[$column] = 'text';
            $row[$column] = $text;
            foreach ($paths as $path) {
                $this->site->used($table, 1, $column, $path);
            }
        }
        $this->site->make($table, $columns, ['id']);
        $this->site->put($table, $row);
    }

    private function banners(): void
    {
        [$naming, $draw] = [$this->naming, $this->draw];
        [$table, $slots] = [$naming->table('banner'), $naming->table('slot')];
        $column = static fn (string ...$of): string => $naming->column('banner', ...$of);
        [$id, $slotId] = [$naming->key('banner'), $naming->key('slot')];
        $library = $this->site->library;
        $isById = $library->kind !== 'none' && $draw->is(60);
        $picture = $isById ? $naming->foreign($naming->word('picture')) : $column('picture');
        $isUuid = $library->keys === 'uuid';
        $tie = $draw->one(['pairs', 'column', 'list']);
        $owner = $naming->keyOf('slot');
        $this->site->habits[] = "banners in slots by $tie";
        $this->site->make($slots, [
            $slotId => 'integer', $naming->column('slot', 'name') => 'varchar(60)',
        ] + ($tie === 'list' ? [$naming->table('banner') => 'varchar(60)'] : []), [$slotId]);
        $this->site->make($table, [
            $id => 'integer', $column('title') => 'varchar(120)', $picture => $isById
                ? $this->site->keyType() : 'varchar(200)', $column('link') => 'varchar(200)',
            $column('visible') => 'integer',
        ] + ($tie === 'column' ? [$owner => 'integer'] : []), [$id]);
        $many = $draw->number(4, 10);
        foreach (range(1, 3) as $n) {
            $own = array_filter(range(1, $many), static fn (int $banner): bool => 1 + $banner % 3 === $n);
            $this->site->put($slots, [$slotId => $n, $naming->column('slot', 'name') => ['top', 'side', 'foot'][$n - 1]]
                + ($tie === 'list' ? [$naming->table('banner') => implode(',', $own)] : []));
        }
        for ($n = 1; $n <= $many; $n++) {
            $item = $this->content->item();
            [$address, $paths] = $isById ? [$item['key'], [$item['path']]] : $this->content->address();
            $this->site->put($table, [
                $id => $n, $column('title') => "Banner $n", $picture => $address,
                $column('link') => 'https://partner.example/offers', $column('visible') => (int) ($n !== 3),
            ] + ($tie === 'column' ? [$owner => 1 + $n % 3] : []));
            foreach ($paths as $path) {
                $this->site->used($table, $n, $picture, $path);
            }
        }
        if ($tie === 'pairs') {
            $pairs = $naming->table('slot', 'banner');
            $other = $naming->keyOf('banner');
            $this->site->make($pairs, [
                $owner => 'integer', $other => 'integer', $naming->column('slot', 'position') => 'integer',
            ], [$owner, $other]);
            for ($n = 1; $n <= $many; $n++) {
                $this->site->put($pairs, [
                    $owner => 1 + $n % 3, $other => $n, $naming->column('slot', 'position') => $n % 4,
                ]);
            }
        }
    }

    private function menu(): void
    {
        $naming = $this->naming;
        $table = $naming->table('menu');
        $column = static fn (string ...$of): string => $naming->column('menu', ...$of);
        $id = $naming->key('menu');
        $hasIcons = $this->draw->is(40);
        $this->site->make($table, [
            $id => 'integer', $column('name') => 'varchar(60)', $column('link') => 'varchar(200)',
            $column('position') => 'integer',
        ] + ($hasIcons ? [$column('logo') => 'varchar(200)'] : []), [$id]);
        $pages = min(5, count($this->kinds['page']['keys'] ?? [1]));
        foreach (range(1, 6) as $n) {
            $row = [
                $id => $n,
                $column('name') => "Way $n",
                $column('link') => '/page-'.min($n, $pages),
                $column('position') => $n,
            ];
            if ($hasIcons) {
                [$address, $paths] = $this->content->address();
                $row[$column('logo')] = $address;
                foreach ($paths as $path) {
                    $this->site->used($table, $n, $column('logo'), $path);
                }
            }
            $this->site->put($table, $row);
        }
    }

    /** @param  array{table: string, key: string, keys: list<string>, slugs: list<string>}  $kind */
    private function attributes(string $meaning, array $kind): void
    {
        [$naming, $content, $draw] = [$this->naming, $this->content, $this->draw];
        $table = $naming->table($meaning, 'attribute');
        $column = static fn (string ...$of): string => $naming->column('attribute', ...$of);
        [$id, $owner] = [$naming->key('attribute'), $naming->keyOf($meaning)];
        $isUuid = ! ctype_digit($kind['keys'][0]);
        $byId = $this->site->library->kind !== 'none' && $draw->is(70);
        $this->site->habits[] = "$meaning has rows of names and values";
        $this->site->make($table, [
            $id => 'integer', $owner => $isUuid ? 'varchar(36)' : 'integer', $column('key') => 'varchar(60)',
            $column('value') => 'text',
        ], [$id]);
        $at = 0;
        foreach ($kind['keys'] as $n => $key) {
            $item = $content->item();
            $rows = [
                'subtitle' => ['Words of it', []],
                'header_image' => $byId ? [$item['key'], [$item['path']]] : $content->address(),
                'columns' => [(string) (1 + $n % 4), []],
                'sidebar' => $content->html(''),
            ];
            foreach ($rows as $name => [$value, $paths]) {
                if ($draw->is(40)) {
                    continue;
                }
                $this->site->put($table, [
                    $id => ++$at, $owner => $key, $column('key') => $name, $column('value') => $value,
                ]);
                foreach ($paths as $path) {
                    $this->site->used($table, $at, $column('value'), $path);
                }
            }
        }
    }

    /** @param  array{table: string, key: string, keys: list<string>, slugs: list<string>}  $kind */
    private function versions(string $meaning, array $kind): void
    {
        $naming = $this->naming;
        $table = $naming->table($meaning, 'version');
        $column = static fn (string ...$of): string => $naming->column('version', ...$of);
        [$id, $owner] = [$naming->key('version'), $naming->keyOf($meaning)];
        $isUuid = ! ctype_digit($kind['keys'][0]);
        $isJson = $this->draw->is(40);
        $this->site->make($table, [
            $id => 'integer', $owner => $isUuid ? 'varchar(36)' : 'integer', $column('body') => 'text',
            $column('created') => 'datetime',
        ], [$id]);
        $at = 0;
        foreach (array_slice($kind['keys'], 0, 12) as $key) {
            [$text, $paths] = $this->content->html('');
            $this->site->put($table, [
                $id => ++$at, $owner => $key, $column('created') => '2016-02-03 00:00:00',
                $column('body') => $isJson ? (string) json_encode(['title' => 'Before', 'body' => $text]) : $text,
            ]);
            foreach ($paths as $path) {
                $this->site->used($table, $at, $column('body'), $path);
            }
        }
    }

    /** @param  array{table: string, key: string, keys: list<string>, slugs: list<string>}  $kind */
    private function pairs(string $meaning, array $kind): void
    {
        $naming = $this->naming;
        $table = $naming->table($meaning, 'media');
        [$owner, $media] = [$naming->keyOf($meaning), $naming->keyOf('media')];
        $position = $naming->column('attachment', 'position');
        $isUuid = ! ctype_digit($kind['keys'][0]);
        $hasKey = $this->draw->is(50);
        $this->site->habits[] = "$meaning has media in pairs";
        $this->site->make($table, ($hasKey ? ['id' => 'integer'] : []) + [
            $owner => $isUuid ? 'varchar(36)' : 'integer',
            $media => $this->site->keyType(),
            $position => 'integer',
        ], $hasKey ? ['id'] : [$owner, $media], $this->isDeclared ? [
            $owner => [$kind['table'], $kind['key']],
            $media => [$naming->table('media'), $naming->key('media')],
        ] : []);
        $at = 0;
        foreach ($kind['keys'] as $key) {
            foreach ($this->draw->some($this->site->library->pool(), $this->draw->number(0, 3)) as $n => $item) {
                $this->site->put($table, ($hasKey ? ['id' => ++$at] : []) + [
                    $owner => $key, $media => $item['key'], $position => $n,
                ]);
                $this->site->used($table, $hasKey ? $at : "$key/{$item['key']}", $media, $item['path']);
            }
        }
    }

    private function attachments(): void
    {
        $naming = $this->naming;
        $table = $naming->table('attachment');
        $kinds = array_filter($this->kinds, static fn (array $kind): bool => ctype_digit($kind['keys'][0]));
        if (count($kinds) < 2) {
            return;
        }
        $this->site->habits[] = 'attachments of any kind';
        [$id, $type] = [$naming->key('attachment'), $naming->column('attachment', 'kind')];
        $of = $this->draw->one(['owner', 'object', 'subject', 'parent']);
        [$type, $owner] = [$naming->written([$of, 'type']), $naming->written([$of, 'id'])];
        $media = $naming->keyOf('media');
        if ($media === $id) {
            return;
        }
        $this->site->make($table, [
            $id => 'integer', $type => 'varchar(60)', $owner => 'integer',
            $media => $this->site->keyType(),
        ], [$id]);
        $at = 0;
        foreach ($kinds as $meaning => $kind) {
            foreach (array_slice($kind['keys'], 0, 10) as $key) {
                $item = $this->content->item();
                $this->site->put($table, [
                    $id => ++$at, $type => $naming->one($meaning), $owner => $key, $media => $item['key'],
                ]);
                $this->site->used($table, $at, $media, $item['path']);
            }
        }
    }

    private function redirects(): void
    {
        if (! $this->draw->is(40)) {
            return;
        }
        $naming = $this->naming;
        $table = $naming->table('redirect');
        $id = $naming->key('redirect');
        $slash = $this->draw->is(60) ? '/' : '';
        [$old, $new] = [$naming->column('redirect', 'old'), $naming->column('redirect', 'new')];
        $this->site->make($table, [$id => 'integer', $old => 'varchar(200)', $new => 'varchar(200)'], [$id]);
        foreach (range(1, 5) as $n) {
            $this->site->put($table, [$id => $n, $old => "{$slash}before/page-$n.html", $new => "{$slash}page-$n"]);
        }
    }

    private function decoys(): void
    {
        [$naming, $draw] = [$this->naming, $this->draw];
        $page = $this->kinds['page'] ?? null;
        if ($page !== null && ctype_digit($page['keys'][0]) && $draw->is(40)) {
            $table = $naming->table('vote');
            $id = $naming->key('vote');
            $this->site->make($table, [
                $id => 'integer', $naming->keyOf('page') => 'integer', $naming->column('vote', 'score') => 'integer',
            ], [$id]);
            for ($n = 1; $n <= 30; $n++) {
                $this->site->put($table, [
                    $id => $n, $naming->keyOf('page') => $draw->one($page['keys']),
                    $naming->column('vote', 'score') => 1 + $n % 5,
                ]);
            }
        }
        if ($draw->is(40)) {
            $table = $naming->table('order');
            $id = $naming->key('order');
            $this->site->make($table, [
                $id => 'integer', $naming->column('order', 'email') => 'varchar(80)',
                $naming->column('order', 'amount') => 'integer', $naming->column('order', 'price') => 'integer',
                $naming->column('order', 'created') => 'datetime',
            ], [$id]);
            for ($n = 1; $n <= 40; $n++) {
                $this->site->put($table, [
                    $id => $n, $naming->column('order', 'email') => "guest$n@post.example",
                    $naming->column('order', 'amount') => 1 + $n % 9, $naming->column('order', 'price') => 3 * $n,
                    $naming->column('order', 'created') => '2018-01-02 03:04:05',
                ]);
            }
        }
        if ($draw->is(40)) {
            $table = $naming->written(['search', 'cache']);
            $this->site->make($table, ['id' => 'integer', 'words' => 'text'], ['id']);
            foreach (range(1, 8) as $n) {
                [$address] = $this->content->address();
                $this->site->put($table, ['id' => $n, 'words' => "<p><img src=\"$address\"></p>"]);
            }
        }
    }
}
