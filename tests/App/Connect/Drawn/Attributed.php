<?php

declare(strict_types=1);

namespace Tests\App\Connect\Drawn;

/**
 * Things whose every word is a row of its own: a table of things, one of the names of their attributes, and one or two
 * of values.
 */
final readonly class Attributed
{
    public function __construct(private DrawnSite $site)
    {
    }

    public function write(string $meaning, int $rows): void
    {
        [$naming, $draw, $content] = [$this->site->naming, $this->site->draw, $this->site->content];
        $this->site->habits[] = "$meaning in attributes";
        [$table, $names] = [$naming->table($meaning), $naming->table($meaning, 'attribute')];
        $values = $naming->written([$names, 'value']);
        [$key, $nameKey] = [$naming->key($meaning), $naming->key('attribute')];
        $owner = $naming->keyOf($meaning);
        $of = $naming->keyOf('attribute');
        $code = $naming->column('attribute', 'key');
        $value = $naming->column('attribute', 'value');
        $this->site->make($table, [
            $key => 'integer', $naming->column($meaning, 'kind') => 'varchar(20)',
            $naming->column($meaning, 'created') => 'datetime',
        ], [$key]);
        $this->site->make($names, [$nameKey => 'integer', $code => 'varchar(60)'], [$nameKey]);
        $this->site->make($values, [
            'id' => 'integer', $owner => 'integer', $of => 'integer', $value => 'text',
        ], ['id']);
        $library = $this->site->library;
        $byId = $library->kind !== 'none';
        $write = [
            'title' => static fn (int $n): array => [ucfirst($meaning)." $n", []],
            'url_key' => static fn (int $n): array => [strtolower($meaning)."-$n", []],
            'description' => static fn (int $n): array => $content->html(''),
            'image' => static function (int $n) use ($content, $byId): array {
                if (! $byId) {
                    return $content->address();
                }
                $item = $content->item();

                return [$item['key'], [$item['path']]];
            },
            'columns' => static fn (int $n): array => [(string) (1 + $n % 3), []],
            'colour' => static fn (int $n): array => [['red', 'blue', '#ffcc00'][$n % 3], []],
        ];
        $codes = [];
        foreach (array_keys($write) as $n => $name) {
            $codes[$name] = 40 + 3 * $n;
            $this->site->put($names, [$nameKey => $codes[$name], $code => $name]);
        }
        $at = 0;
        for ($n = 1; $n <= $rows; $n++) {
            $this->site->pages["$table|$n"] = ucfirst($meaning)." $n";
            $this->site->put($table, [
                $key => $n, $naming->column($meaning, 'kind') => $n % 2 === 0 ? 'simple' : 'group',
                $naming->column($meaning, 'created') => '2016-01-01 00:00:00',
            ]);
            foreach ($write as $name => $make) {
                if (($name === 'columns' || $name === 'image') && $draw->is(30)) {
                    continue;
                }
                [$said, $paths] = $make($n);
                $this->site->put($values, ['id' => ++$at, $owner => $n, $of => $codes[$name], $value => $said]);
                foreach ($paths as $path) {
                    $this->site->used($values, $at, $value, $path);
                }
            }
        }
    }
}
