<?php

declare(strict_types=1);

namespace App\Sites;

use InvalidArgumentException;
use Symfony\Component\Yaml\Exception\ParseException;
use Symfony\Component\Yaml\Yaml;
use Ylema\Addresses\MediaPages;
use Ylema\Addresses\RenditionNames;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Rules;
use Ylema\Reading\TokenPattern;

/** A field map, read from its YAML and checked; docs/field-map.md describes the format. */
final readonly class FieldMap
{
    /**
     * @param  array<string, string|null>  $media the media table's columns: table, key, path, title, alt, caption, credit, folder, tags, renditions, focus_x, focus_y, width, height
     * @param  list<string>  $mediaFolders below the root, each ending in `/`
     * @param  list<TokenPattern>  $tokens
     * @param  array<string, Notation>  $lazyAttributes of the site's own scripts, beside the usual ones
     * @param  array<string, KindMap>  $kinds
     */
    private function __construct(
        public array $media,
        public array $mediaFolders,
        public RenditionNames $renditionNames,
        public ?MediaPages $mediaPages,
        public array $tokens,
        public array $lazyAttributes,
        public array $kinds,
    ) {
    }

    /** @throws FieldMapError */
    public static function parse(string $yaml): self
    {
        try {
            $map = Yaml::parse($yaml);
        } catch (ParseException $e) {
            throw new FieldMapError("The field map is not readable YAML: {$e->getMessage()}");
        }
        if (! is_array($map) || ($map['version'] ?? null) !== 1) {
            throw FieldMapError::at('version', 'write "version: 1" as the first line.');
        }
        $media = self::section($map, 'media');
        $records = self::section($map, 'records');
        $files = self::section($map, 'files');
        $names = array_map(strval(...), array_keys($records));
        $kinds = [];
        foreach ($records as $kind => $section) {
            if (! is_array($section)) {
                throw FieldMapError::at("records.$kind", 'a table and its fields belong here.');
            }
            $kinds[(string) $kind] = self::kindOf((string) $kind, $section, $names);
        }
        $columns = [];
        foreach (['table', 'key', 'path'] as $needed) {
            $columns[$needed] = self::name($media, $needed, "media.$needed");
        }
        foreach (['title', 'alt', 'caption', 'credit', 'folder', 'tags', 'renditions', 'focus_x', 'focus_y', 'width', 'height'] as $optional) {
            $columns[$optional] = isset($media[$optional]) ? self::name($media, $optional, "media.$optional") : null;
        }
        $tokens = [];
        foreach (is_array($map['tokens'] ?? null) ? $map['tokens'] : [] as $name => $token) {
            if (! is_array($token) || ! is_string($token['pattern'] ?? null)) {
                throw FieldMapError::at("tokens.$name", 'a pattern belongs here.');
            }
            $target = is_string($token['names'] ?? null) ? $token['names'] : null;
            if ($target !== null && ! in_array($target, $names, true)) {
                throw FieldMapError::at("tokens.$name.names", "\"$target\" is no kind of this map. Known: ".implode(', ', $names).'.');
            }
            try {
                $tokens[] = TokenPattern::of((string) $name, $token['pattern'], $target);
            } catch (InvalidArgumentException $e) {
                throw FieldMapError::at("tokens.$name", $e->getMessage());
            }
        }
        $folders = is_array($files['folders'] ?? null) ? $files['folders'] : [];

        return new self(
            $columns,
            array_values(array_map(static fn (mixed $f): string => trim(is_string($f) ? $f : '', '/').'/', $folders)),
            self::renditionNames($files['renditions'] ?? RenditionNames::USUAL),
            self::mediaPages($media['page'] ?? null),
            $tokens,
            self::lazyAttributes($map['lazy'] ?? []),
            $kinds,
        );
    }

    private static function renditionNames(mixed $patterns): RenditionNames
    {
        try {
            return new RenditionNames(...array_values(array_map(static fn (mixed $p): string => is_string($p) ? $p : '', is_array($patterns) ? $patterns : [$patterns])));
        } catch (InvalidArgumentException $e) {
            throw FieldMapError::at('files.renditions', $e->getMessage());
        }
    }

    /** @return array<string, Notation> */
    private static function lazyAttributes(mixed $section): array
    {
        $attributes = [];
        foreach (is_array($section) ? $section : throw FieldMapError::at('lazy', 'a list of attributes belongs here, each with its notation.') as $name => $word) {
            $notation = self::notation($word, "lazy.$name");
            if (! is_string($name) || preg_match('~^[a-z][a-z0-9-]*$~D', $name) !== 1) {
                throw FieldMapError::at("lazy.$name", 'the name of an attribute belongs here, in lower case.');
            }
            if (! in_array($notation, [Notation::Url, Notation::Srcset, Notation::Css, Notation::Html, Notation::Json], true)) {
                throw FieldMapError::at("lazy.$name", 'an attribute holds url, srcset, css, html or json.');
            }
            $attributes[$name] = $notation;
        }

        return $attributes;
    }

    private static function mediaPages(mixed $pattern): ?MediaPages
    {
        try {
            return $pattern === null ? null : new MediaPages(is_string($pattern) ? $pattern : '');
        } catch (InvalidArgumentException $e) {
            throw FieldMapError::at('media.page', $e->getMessage());
        }
    }

    /** The reading rules that all fields of this site share. */
    public function rules(): Rules
    {
        return new Rules(tokens: $this->tokens, lazyAttributes: [...Rules::LAZY, ...$this->lazyAttributes], mediaFolders: array_map(static fn (string $f): string => "/$f", $this->mediaFolders));
    }

    public function kind(string $kind): KindMap
    {
        return $this->kinds[$kind] ?? throw FieldMapError::at('records', "there is no kind \"$kind\".");
    }

    /**
     * @param  array<mixed>  $section
     * @param  list<string>  $names
     */
    private static function kindOf(string $kind, array $section, array $names): KindMap
    {
        $place = "records.$kind";
        $fields = [];
        foreach (self::section($section, 'fields', $place) as $column => $rule) {
            $fields[(string) $column] = self::field((string) $column, $rule, "$place.fields.$column", $names);
        }
        $state = $section['state'] ?? 'live';
        $words = [];
        if (is_string($state)) {
            $words = ['always' => self::word($state, "$place.state"), 'live' => [], 'waiting' => [], 'fading' => []];
        } elseif (is_array($state)) {
            foreach (['live', 'waiting', 'fading'] as $word) {
                $values = $state[$word] ?? [];
                $words[$word] = array_values(array_map(self::scalar(...), is_array($values) ? $values : [$values]));
            }
            foreach (['column', 'from', 'until'] as $part) {
                if (isset($state[$part])) {
                    $words[$part] = self::name($state, $part, "$place.state.$part");
                }
            }
        }
        $facts = [];
        foreach (is_array($section['facts'] ?? null) ? $section['facts'] : [] as $label => $column) {
            $facts[(string) $label] = self::identifier($column, "$place.facts.$label");
        }

        /** @var array{column?: string, live: list<string>, waiting: list<string>, fading: list<string>, from?: string, until?: string, always?: string} $words */
        return new KindMap(
            $kind,
            self::name($section, 'table', "$place.table"),
            is_string($section['where'] ?? null) ? $section['where'] : null,
            self::name($section, 'key', "$place.key"),
            self::title($section['title'] ?? $section['key'] ?? null, "$place.title"),
            is_string($section['address'] ?? null) ? $section['address'] : null,
            isset($section['address']) && ($section['page'] ?? true) === true,
            ($section['everywhere'] ?? false) === true,
            $words,
            $facts,
            $fields,
        );
    }

    /** @param  list<string>  $names */
    private static function field(string $column, mixed $rule, string $place, array $names): FieldRule
    {
        self::identifier($column, $place);
        $rule = is_string($rule) ? ['notation' => $rule] : $rule;
        if (! is_array($rule)) {
            throw FieldMapError::at($place, 'a notation belongs here, such as "html".');
        }
        $paths = [];
        foreach (is_array($rule['paths'] ?? null) ? $rule['paths'] : [] as $path => $inner) {
            $inner = is_string($inner) ? ['notation' => $inner] : (is_array($inner) ? $inner : []);
            $paths[] = new PathRule((string) $path, self::notation($inner['notation'] ?? null, "$place.paths.$path"), is_string($inner['role'] ?? null) ? $inner['role'] : null, self::target($inner['names'] ?? null, "$place.paths.$path.names", $names));
        }
        $named = $rule['names'] ?? null;
        $targetFrom = null;
        if (is_array($named)) {
            $decides = self::name($named, 'column', "$place.names.column");
            unset($named['column']);
            $kinds = [];
            foreach ($named as $value => $kind) {
                $kinds[(string) $value] = (string) self::target($kind, "$place.names.$value", $names);
            }
            $targetFrom = ['column' => $decides, 'kinds' => $kinds];
        }

        return new FieldRule(
            $column,
            self::notation($rule['notation'] ?? null, $place),
            is_string($rule['role'] ?? null) ? $rule['role'] : null,
            $paths,
            is_array($named) ? null : self::target($named, "$place.names", $names),
            $targetFrom,
        );
    }

    /** A template such as "{name}.css"; a bare word is the name of a column. */
    private static function title(mixed $title, string $place): string
    {
        return is_string($title) && str_contains($title, '{') ? $title : '{'.self::identifier($title, $place).'}';
    }

    private static function notation(mixed $word, string $place): Notation
    {
        $notation = is_string($word) ? Notation::tryFrom($word) : null;

        return $notation ?? throw FieldMapError::at($place, 'the notation is one of '.implode(', ', array_column(Notation::cases(), 'value')).'.');
    }

    /** @param  list<string>  $names */
    private static function target(mixed $kind, string $place, array $names): ?string
    {
        if ($kind === null) {
            return null;
        }
        if (! is_string($kind) || ! in_array($kind, $names, true)) {
            throw FieldMapError::at($place, 'name one of the kinds of this map: '.implode(', ', $names).'.');
        }

        return $kind;
    }

    private static function word(string $word, string $place): string
    {
        return in_array($word, ['live', 'waiting', 'fading'], true) ? $word : throw FieldMapError::at($place, 'the state is live, waiting or fading.');
    }

    private static function scalar(mixed $value): string
    {
        return is_bool($value) ? ($value ? 'true' : 'false') : (is_scalar($value) ? (string) $value : '');
    }

    /**
     * @param  array<mixed>  $map
     * @return array<mixed>
     */
    private static function section(array $map, string $key, string $place = ''): array
    {
        $section = $map[$key] ?? null;

        return is_array($section) ? $section : throw FieldMapError::at(ltrim("$place.$key", '.'), 'this section is missing.');
    }

    /** @param  array<mixed>  $section */
    private static function name(array $section, string $key, string $place): string
    {
        return self::identifier($section[$key] ?? null, $place);
    }

    /** Table and column names go into SQL, so only plain ones are taken. */
    private static function identifier(mixed $name, string $place): string
    {
        if (! is_string($name) || preg_match('~^[A-Za-z_][A-Za-z0-9_]*(?:\.[A-Za-z_][A-Za-z0-9_]*)?$~D', $name) !== 1) {
            throw FieldMapError::at($place, 'the plain name of a table or column belongs here.');
        }

        return $name;
    }
}
