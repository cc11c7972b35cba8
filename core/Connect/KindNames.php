<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** What the records of each table are called in a map. */
final readonly class KindNames
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

    /** @var array<string, string> table → kind */
    private array $kinds;

    /**
     * @param  list<string>  $tables
     * @param  array<string, mixed>  $pages those of them that are pages
     * @param  string  $prefix what the names of most tables begin with
     */
    public function __construct(array $tables, array $pages, string $prefix)
    {
        $kinds = [];
        foreach ($tables as $table) {
            $stem = Hints::stem($table, $prefix);
            $isPage = isset($pages[$table]) && preg_match('~^(?:node|page|entry|article|content)[_-]~', $stem) === 1;
            $name = $isPage ? 'page' : self::KINDS[$stem] ?? strtr($stem, ['_' => '-']);
            $name = preg_replace('~[^a-z0-9-]~', '-', $name) ?: 'records';
            for ($n = 2, $own = $name; in_array($own, $kinds, true); $n++) {
                $own = $n === 2 ? strtr($stem, ['_' => '-']) : "$name-$n";
            }
            $kinds[$table] = $own;
        }
        $this->kinds = $kinds;
    }

    /** @return string|null null where a table is not read */
    public function of(string $table): ?string
    {
        return $this->kinds[$table] ?? null;
    }

    /**
     * A token as a map says it, with kinds where tables are named.
     *
     * @param  array<string, mixed>  $token
     * @return array<string, mixed>
     */
    public function inToken(array $token): array
    {
        unset($token['by']);
        if (is_string($token['names'] ?? null)) {
            $token['names'] = $this->of($token['names']) ?? $token['names'];
        }
        $attributes = is_array($token['attributes'] ?? null) ? $token['attributes'] : [];
        foreach ($attributes as $attribute => $rule) {
            if (is_array($rule) && is_string($rule['names'] ?? null)) {
                $attributes[$attribute] = [...$rule, 'names' => $this->of($rule['names']) ?? $rule['names']];
            }
        }
        if ($attributes !== []) {
            $token['attributes'] = $attributes;
        }

        return $token;
    }

    /** The rule of a field with kinds where tables are named; what is not read is not named. */
    public function inRule(mixed $rule): mixed
    {
        if (! is_array($rule)) {
            return $rule;
        }
        $paths = is_array($rule['paths'] ?? null) ? $rule['paths'] : [];
        foreach ($paths as $path => $own) {
            if (is_array($own) && is_string($own['names'] ?? null)) {
                $kind = $this->of($own['names']);
                $paths[$path] = $kind === null ? null : [...$own, 'names' => $kind];
            }
        }
        if ($paths !== []) {
            $rule['paths'] = array_filter($paths, static fn (mixed $own): bool => $own !== null);
        }
        $names = $rule['names'] ?? null;
        if (! is_array($names) || ! isset($names['between'])) {
            return $rule;
        }
        foreach (array_diff_key($names, ['between' => 1]) as $word => $table) {
            $names[$word] = is_string($table) && $table !== Fields::MEDIA ? $this->of($table) : $table;
        }
        $rule['names'] = array_filter($names, static fn (mixed $name): bool => $name !== null);

        return $rule;
    }
}
