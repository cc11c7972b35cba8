<?php

declare(strict_types=1);

namespace App\Sites;

use InvalidArgumentException;
use Symfony\Component\Finder\Glob;
use Symfony\Component\Yaml\Exception\ParseException;
use Symfony\Component\Yaml\Yaml;
use Ylema\Addresses\MediaPages;
use Ylema\Addresses\RenditionNames;
use Ylema\Addresses\Url;
use Ylema\Reading\CommentRule;
use Ylema\Reading\ElementRule;
use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\Layers\ThroughScript;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;
use Ylema\Reading\TokenPattern;
use Ylema\Reading\TokenTag;

/** A field map, read from its YAML and checked; docs/field-map.md describes the format. */
final readonly class FieldMap
{
    /** What may be said of a site. */
    public const LINES = [
        'version',
        'media',
        'files',
        'encoding',
        'lazy',
        'elements',
        'tokens',
        'comments',
        'redirects',
        'code',
        'records',
    ];

    /** What may be said of the site's files. */
    public const OF_FILES = ['folders', 'renditions', 'schemes', 'scripts'];

    private const IN_ATTRIBUTES = [
        Notation::Url,
        Notation::Addresses,
        Notation::Srcset,
        Notation::Css,
        Notation::Html,
        Notation::Json,
        Notation::JavaScript,
        Notation::Markdown,
        Notation::MediaId,
    ];

    /**
     * @param  MediaMap|null  $media null where the site has no list of media, and its files are the items
     * @param  list<string>  $mediaFolders below the root, each ending in `/`
     * @param  array<string, string>  $schemes of the site's own addresses, in lower case → folder below the root,
     *       ending in `/`
     * @param  array<string, string>  $scripts of the site's own that show files: pattern below the root → the folder
     *       before a path, ending in `/`
     * @param  list<TokenPattern>  $tokens
     * @param  list<TokenTag>  $tags tokens with named attributes
     * @param  list<CommentRule>  $comments
     * @param  array<string, Notation>  $lazyAttributes of the site's own scripts, beside the usual ones
     * @param  array<string, array<string, ElementRule>>  $elements of the site's own making: element → attribute → what
     *       it holds
     * @param  array<string, KindMap>  $kinds
     * @param  array{table: string, from: string, to: string, code: string|null}|null  $redirects the site's own table
     *       of redirects and its columns
     * @param  string|null  $encoding in which the site gives its pages out, where that is not UTF-8
     * @param  list<string>|null  $code patterns of the files of the site's own code; null where nobody said
     */
    private function __construct(
        public ?MediaMap $media,
        public array $mediaFolders,
        public RenditionNames $renditionNames,
        public array $schemes,
        public array $scripts,
        public ?MediaPages $mediaPages,
        public array $tokens,
        public array $tags,
        public array $comments,
        public array $lazyAttributes,
        public array $elements,
        public array $kinds,
        public ?array $redirects,
        public ?array $code,
        public ?string $encoding,
        private MapLines $lines,
    ) {
    }

    /** Bytes of a map: some 2,000 tables. What is longer takes its reader's time, and was hardly written by hand. */
    private const LONGEST = 262_144;

    /** Of a site whose tables nobody described yet. */
    public static function none(): self
    {
        return self::parse("version: 1\nfiles: { folders: [] }\nrecords: {}");
    }

    /** @throws FieldMapError */
    public static function parse(string $yaml): self
    {
        if (strlen($yaml) > self::LONGEST) {
            throw FieldMapError::tooLong(strlen($yaml), self::LONGEST);
        }
        try {
            $map = Yaml::parse($yaml);
        } catch (ParseException $e) {
            throw FieldMapError::unreadable($e->getMessage(), $e->getParsedLine());
        }
        $lines = new MapLines($yaml);
        if (! is_array($map) || ($map['version'] ?? null) !== 1) {
            throw FieldMapError::at('version', 'write "version: 1" as the first line.', 1);
        }
        $root = MapNode::root($map, $lines)->only(self::LINES);
        $media = $root->has('media') ? $root->section('media') : null;
        $files = $root->section('files')->only(self::OF_FILES);
        $records = $root->section('records');
        $kinds = [];
        $names = $records->keys();
        $section = new KindSection($names, $records);
        foreach ($names as $kind) {
            $kinds[$kind] = $section->kind(
                $kind,
                $records->section($kind, 'a table and its fields belong here.'),
            );
        }

        return new self(
            $media === null ? null : self::media($media),
            array_map(self::folder(...), $files->texts('folders')),
            self::renditionNames($files),
            self::schemes($files),
            self::scripts($files),
            $media === null ? null : self::mediaPages($media),
            self::tokens($root->optional('tokens', 'a list of tokens belongs here.'), $records->keys()),
            self::tags($root->optional('tokens', 'a list of tokens belongs here.'), $records->keys()),
            self::comments($root->optional('comments', 'a pattern and its notation belong here.')),
            self::lazyAttributes($root->optional('lazy', 'a list of attributes belongs here, each with its notation.')),
            self::elements($root->optional('elements', 'a list of elements belongs here, each with its attributes.')),
            $kinds,
            self::redirects($root),
            $root->has('code') ? $root->texts('code') : null,
            self::encoding($root),
            $lines,
        );
    }

    /** @throws FieldMapError */
    private static function encoding(MapNode $root): ?string
    {
        $label = $root->text('encoding');
        if ($label !== null && Charset::called($label) === null) {
            throw $root->wrong('encoding', "no browser knows an encoding \"$label\"; write one such as windows-1252.");
        }

        return $label;
    }

    /**
     * The reading rules that all fields of this site share.
     *
     * @param  string  $root the path of the site's root on its host
     */
    public function rules(string $root = '/'): Rules
    {
        $root = '/'.ltrim(rtrim($root, '/').'/', '/');

        return new Rules(
            tokens: $this->tokens,
            lazyAttributes: $this->lazyAttributes === [] ? Rules::LAZY : [...Rules::LAZY, ...$this->lazyAttributes],
            mediaFolders: array_values(
                array_filter(
                    array_map(
                        static fn (string $folder): string => $root.$folder,
                        [...$this->mediaFolders, ...$this->mediaPages?->folders() ?? []],
                    ),
                    static fn (string $folder): bool => $folder !== '/',
                ),
            ),
            elements: $this->elements,
            tags: $this->tags,
            comments: $this->comments,
            schemes: array_map(static fn (string $folder): string => $root.$folder, $this->schemes),
            scripts: array_combine(
                array_map(static fn (string $pattern): string => $root.$pattern, array_keys($this->scripts)),
                array_map(static fn (string $folder): string => $root.$folder, array_values($this->scripts)),
            ),
            encoding: $this->encoding,
        );
    }

    public function kind(string $kind): KindMap
    {
        return $this->kinds[$kind] ??
            throw FieldMapError::at('records', "there is no kind \"$kind\".", $this->lines->of('records'));
    }

    /** @return list<string> kinds whose records are named by others, by tokens or by what others say of themselves */
    public function named(): array
    {
        $named = array_map(static fn (TokenPattern $token): ?string => $token->target, $this->tokens);
        foreach ($this->tags as $tag) {
            array_push($named, $tag->content?->target, ...array_column($tag->attributes, 'target'));
        }
        foreach ($this->elements as $attributes) {
            array_push($named, ...array_column($attributes, 'target'));
        }
        foreach ($this->kinds as $kind) {
            $rules = array_map(
                static fn (FieldColumn $field): array => array_values($field->rules),
                array_values($kind->fields),
            );
            foreach (array_merge($kind->owners, ...$rules) as $rule) {
                array_push(
                    $named,
                    $rule->target,
                    ...array_values($rule->targetFrom['kinds'] ?? []),
                    ...array_values($rule->typed),
                    ...array_column($rule->paths, 'target'),
                );
            }
            array_push($named, ...array_column($kind->joins, 'kind'));
        }

        return array_values(array_unique(array_filter($named, is_string(...))));
    }

    /**
     * Files that pages fetch and that are records themselves, as style sheets are.
     *
     * @return array<string, list<string>> kind → expressions of their paths
     */
    public function served(): array
    {
        $served = [];
        foreach ($this->kinds as $kind) {
            if ($kind->isOfFiles() && ! $kind->isPage && $kind->addresses !== []) {
                $served[$kind->kind] = array_map(
                    static fn (string $pattern): string => Glob::toRegex(ltrim($pattern, '/')),
                    $kind->patterns,
                );
            }
        }

        return $served;
    }

    /** The table that a place of the map speaks of: `records.page`, `media`, `media.sizes`, `redirects`. */
    public function tableAt(string $place): string
    {
        [$section, $name] = [...explode('.', $place), ''];

        return (string) match ($section) {
            'media' => $name === 'sizes' ? $this->media?->sizes?->table : $this->media?->table,
            'redirects' => $this->redirects['table'] ?? '',
            default => $this->kind($name)->table,
        };
    }

    /** Where the map names a column that a place of it speaks of. */
    public function placeOf(string $place, string $column): string
    {
        [$section, $name] = [...explode('.', $place), ''];

        return match (true) {
            $section === 'records' => $this->kind($name)->placeOf($column),
            $place === 'media' => $this->media?->placeOf($column) ?? $place,
            $section === 'redirects' => 'redirects.'.(array_search($column, $this->redirects ?? [], true) ?: 'table'),
            default => $place,
        };
    }

    /** Something that only the source itself could tell is wrong at a place. */
    public function wrong(string $place, string $what): FieldMapError
    {
        return FieldMapError::at($place, $what, $this->lines->of($place));
    }

    /** @return array{table: string, from: string, to: string, code: string|null}|null */
    private static function redirects(MapNode $root): ?array
    {
        if (! $root->has('redirects')) {
            return null;
        }
        $redirects = $root
            ->section('redirects', 'a table and its columns belong here: table, from, to and code.')
            ->only(['table', 'from', 'to', 'code']);

        return [
            'table' => $redirects->identifier('table'),
            'from' => $redirects->identifier('from'),
            'to' => $redirects->identifier('to'),
            'code' => $redirects->optionalIdentifier('code'),
        ];
    }

    private static function media(MapNode $media): MediaMap
    {
        $media->only(['table', 'key', 'path', 'page', 'where', 'joins', 'sizes', ...MediaMap::WORDS]);
        $joins = Joins::of($media, []);
        $words = [];
        foreach (MediaMap::WORDS as $word) {
            $words[$word] = $media->has($word) ? Joins::column($media, $word, $joins) : null;
        }
        $ownSizes = $media->has('sizes') && ! self::isSection($media->value('sizes'));
        $sizes = $media->has('sizes') && ! $ownSizes
            ? $media->section('sizes', 'a table and its columns belong here: table, media and path.')
            : null;
        $sizes?->only(['table', 'media', 'path', 'where']);

        return new MediaMap(
            $media->identifier('table'),
            $media->identifier('key'),
            self::path($media, $joins),
            $words,
            $media->text('where'),
            $joins,
            $sizes === null
                ? null
                : new SizesMap(
                    $sizes->identifier('table'),
                    $sizes->identifier('media'),
                    self::path($sizes, []),
                    $sizes->text('where'),
                ),
            $ownSizes ? self::ownSizes($media, $joins) : [],
        );
    }

    private static function isSection(mixed $value): bool
    {
        return is_array($value) && ! array_is_list($value);
    }

    /**
     * Smaller pictures in columns beside the path: names of columns, or texts with columns in braces.
     *
     * @param  array<string, Join>  $joins
     * @return list<Template>
     */
    private static function ownSizes(MapNode $media, array $joins): array
    {
        return array_map(static function (string $text) use ($media, $joins): Template {
            $template = str_contains($text, '{') ? new Template(ltrim($text, '/')) : Template::column($text);
            foreach ($template->columns() as $column) {
                Joins::known($media, 'sizes', $column, $joins);
            }

            return $template;
        }, $media->texts('sizes'));
    }

    /** @param  array<string, Join>  $joins */
    private static function path(MapNode $section, array $joins): Template
    {
        $text = (string) $section->text('path');
        if (! str_contains($text, '{')) {
            return Template::column(Joins::column($section, 'path', $joins));
        }
        $template = new Template(ltrim($text, '/'));
        foreach ($template->columns() as $column) {
            Joins::known($section, 'path', $column, $joins);
        }

        return $template;
    }

    /** Below the root, ending in a slash; the root itself is nothing at all. */
    private static function folder(string $folder): string
    {
        $bare = trim($folder, '/');

        return $bare === '' || $bare === '.' ? '' : "$bare/";
    }

    /** @return array<string, string> scheme in lower case → folder below the root, ending in `/` */
    private static function schemes(MapNode $files): array
    {
        $schemes = [];
        $section = $files->optional('schemes', 'schemes belong here, each with the folder that its addresses mean.');
        foreach ($section->keys() as $scheme) {
            // RFC 3986, 3.1; what browsers know by themselves is not the site's to give a meaning.
            $isOwn = preg_match('~^[a-z][a-z0-9+.-]*$~D', $scheme) === 1 && ! in_array($scheme, Url::KNOWN, true);
            if (! $isOwn) {
                throw $section->wrong(
                    $scheme,
                    'a scheme of the site\'s own belongs here, in lower case and without its colon.',
                );
            }
            $schemes[$scheme] = self::folder((string) $section->text($scheme));
        }

        return $schemes;
    }

    /** @return array<string, string> pattern below the root → folder below the root, ending in `/` */
    private static function scripts(MapNode $files): array
    {
        $scripts = [];
        $section = $files->optional('scripts', 'addresses belong here, each with the folder of the files it shows.');
        foreach ($section->keys() as $pattern) {
            if (substr_count($pattern, ThroughScript::PATH) !== 1 || str_starts_with($pattern, ThroughScript::PATH)) {
                throw $section->wrong(
                    $pattern,
                    'an address belongs here with {path} once, where a file\'s path stands: "thumb.php?src={path}".',
                );
            }
            $scripts[ltrim($pattern, '/')] = self::folder((string) $section->text($pattern));
        }

        return $scripts;
    }

    private static function renditionNames(MapNode $files): RenditionNames
    {
        try {
            return new RenditionNames(...$files->texts('renditions'));
        } catch (InvalidArgumentException $e) {
            throw $files->wrong('renditions', $e->getMessage());
        }
    }

    private static function mediaPages(MapNode $media): ?MediaPages
    {
        try {
            return $media->has('page') ? new MediaPages(...$media->texts('page')) : null;
        } catch (InvalidArgumentException $e) {
            throw $media->wrong('page', $e->getMessage());
        }
    }

    /**
     * @param  list<string>  $kinds
     * @return list<TokenPattern> those that are told by a pattern
     */
    private static function tokens(MapNode $section, array $kinds): array
    {
        $tokens = [];
        foreach ($section->keys() as $name) {
            $token = self::token($section, $name);
            if (! $token->has('pattern')) {
                continue;
            }
            try {
                $tokens[] = TokenPattern::of(
                    $name,
                    (string) $token->text('pattern'),
                    self::target($token, 'names', $kinds),
                );
            } catch (InvalidArgumentException $e) {
                throw $section->wrong($name, $e->getMessage());
            }
        }

        return $tokens;
    }

    /**
     * @param  list<string>  $kinds
     * @return list<TokenTag> those that are told by their attributes or what stands between
     */
    private static function tags(MapNode $section, array $kinds): array
    {
        $tags = [];
        foreach ($section->keys() as $name) {
            $token = self::token($section, $name);
            if ($token->has('pattern')) {
                continue;
            }
            $attributes = [];
            $own = $token->optional('attributes', 'the attributes of the token belong here, each with its notation.');
            foreach ($own->keys() as $attribute) {
                $attributes[self::attribute($own, $attribute)] = self::tokenValue($own, $attribute, $kinds);
            }
            $content = $token->has('content') ? self::tokenValue($token, 'content', $kinds) : null;
            $brackets = preg_split('~\s+~', trim($token->text('brackets') ?? '[ ]')) ?: [];
            if ($attributes === [] && $content === null) {
                throw $section->wrong(
                    $name,
                    'a pattern, or attributes or a content with their notations, belong here.',
                );
            }
            if (count($brackets) !== 2) {
                throw $token->wrong('brackets', 'what begins and what ends the token belongs here, such as "[ ]".');
            }
            $tags[] = new TokenTag($name, $attributes, $content, $brackets[0], $brackets[1]);
        }

        return $tags;
    }

    private static function token(MapNode $section, string $name): MapNode
    {
        return $section
            ->sectionOr($name, 'pattern', 'a pattern, or attributes with their notations, belong here.')
            ->only(['pattern', 'names', 'attributes', 'content', 'brackets']);
    }

    /** @param  list<string>  $kinds */
    private static function tokenValue(MapNode $section, string $name, array $kinds): ElementRule
    {
        $rule = $section
            ->sectionOr($name, 'notation', 'a notation belongs here, such as "media-id" or "url".')
            ->only(['notation', 'role', 'names']);
        $notation = $rule->notation('notation', $section->place().".$name");
        $target = self::target($rule, 'names', $kinds);
        if ($notation === Notation::RecordKey && $target === null) {
            throw $section->wrong($name, 'a key needs "names" with the kind of record.');
        }

        return new ElementRule($notation, $rule->text('role'), $target);
    }

    /** @return list<CommentRule> */
    private static function comments(MapNode $section): array
    {
        if ($section->keys() === []) {
            return [];
        }
        $section->only(['pattern', 'notation']);
        try {
            return [new CommentRule((string) $section->text('pattern'), $section->notation('notation', 'comments'))];
        } catch (InvalidArgumentException $e) {
            throw $section->wrong('pattern', $e->getMessage());
        }
    }

    /** @return array<string, Notation> */
    private static function lazyAttributes(MapNode $section): array
    {
        $attributes = [];
        foreach ($section->keys() as $name) {
            $attributes[self::attribute($section, $name)] = self::inAttribute(
                $section,
                $section->notation($name, $section->place().".$name"),
                $name,
            );
        }

        return $attributes;
    }

    /** @return array<string, array<string, ElementRule>> */
    private static function elements(MapNode $section): array
    {
        $elements = [];
        foreach ($section->keys() as $element) {
            $attributes = $section->section(
                $element,
                'the attributes of the element belong here, each with its notation.',
            );
            if (preg_match('~^[a-z][a-z0-9-]*$~D', $element) !== 1) {
                throw $section->wrong($element, 'the name of an element belongs here, in lower case.');
            }
            foreach ($attributes->keys() as $name) {
                $rule = $attributes
                    ->sectionOr($name, 'notation', 'a notation belongs here, such as "url".')
                    ->only(['notation', 'role']);
                $notation = self::inAttribute(
                    $attributes,
                    $rule->notation('notation', $attributes->place().".$name"),
                    $name,
                );
                $elements[$element][self::attribute($attributes, $name)] = new ElementRule(
                    $notation,
                    $rule->text('role'),
                );
            }
        }

        return $elements;
    }

    private static function attribute(MapNode $section, string $name): string
    {
        return preg_match('~^[a-z][a-z0-9-]*$~D', $name) === 1
            ? $name
            : throw $section->wrong($name, 'the name of an attribute belongs here, in lower case.');
    }

    private static function inAttribute(MapNode $section, Notation $notation, string $name): Notation
    {
        return in_array($notation, self::IN_ATTRIBUTES, true)
            ? $notation
            : throw $section->wrong(
                $name,
                'an attribute holds one of '.implode(', ', array_column(self::IN_ATTRIBUTES, 'value')).'.',
            );
    }

    /** @param  list<string>  $kinds */
    public static function target(MapNode $section, string $key, array $kinds): ?string
    {
        $kind = $section->text($key);
        if ($kind !== null && ! in_array($kind, $kinds, true)) {
            throw $section->wrong($key, 'name one of the kinds of this map: '.implode(', ', $kinds).'.');
        }

        return $kind;
    }
}
