<?php

declare(strict_types=1);

namespace Ylema\Reading;

use Ylema\Reading\Layers\OwnScheme;
use Ylema\Reading\Layers\ThroughScript;

/** What a site adds to the notations: its tokens, its structured paths, its lazy-loading attributes, its own hosts. */
final readonly class Rules
{
    /**
     * Names what the walk through markup depends on; two sets of rules with one key read markup alike, so that patterns
     * made for the one serve the other.
     */
    public string $key;

    /**
     * @param  list<TokenPattern>  $tokens
     * @param  list<PathRule>  $paths
     * @param  array<string, Notation>  $lazyAttributes lower-case attribute name → html, url, srcset, css or json
     * @param  string|null  $role the role that a whole-field reference plays: `featured`, `banner picture`
     * @param  string|null  $target the kind of record that a record-key field names
     * @param  list<string>  $mediaFolders root-relative folders such as `/media/`, which mark a bare string as an
     *       address
     * @param  Fetch|null  $fetch what a browser does with a whole-field address, where the field's place says so
     * @param  array<string, array<string, ElementRule>>  $elements element → attribute, both in lower case → what the
     *       site's own elements hold there
     * @param  list<TokenTag>  $tags tokens with named attributes
     * @param  list<CommentRule>  $comments what is read in comments of markup
     * @param  string|null  $below the folder, from the root of the host, that the site's own code puts before a bare
     *       path
     * @param  bool  $idsAreWords whether the ids of media can be more than whole numbers
     * @param  array<string, string>  $schemes of the site's own addresses, in lower case → the folder that its code
     *       looks in, from the root of the host
     * @param  array<string, string>  $scripts of the site's own that show files: pattern from the root of the host,
     *       with `{path}` and `*` → the folder before the path, from the root of the host
     * @param  string|null  $encoding the label of the encoding that the site gives its pages out in, where it is not
     *       UTF-8
     * @param  array<string, string|null>  $typed what stands before a key, as `picture/` → the kind of record that it
     *       is of then; null for a media item
     */
    public function __construct(
        public array $tokens = [],
        public array $paths = [],
        public array $lazyAttributes = self::LAZY,
        public ?string $role = null,
        public ?string $target = null,
        public array $mediaFolders = [],
        public ?Fetch $fetch = null,
        public array $elements = [],
        public array $tags = [],
        public array $comments = [],
        public ?string $below = null,
        public bool $idsAreWords = false,
        public array $schemes = [],
        public array $typed = [],
        public array $scripts = [],
        public ?string $encoding = null,
    ) {
        $this->key = $lazyAttributes === self::LAZY && $elements === []
            ? 'usual'
            : md5(serialize([$lazyAttributes, $elements]));
    }

    /** Attribute names that several independent lazy-loading scripts share. */
    public const LAZY = [
        'data-src' => Notation::Url,
        'data-original' => Notation::Url,
        'data-srcset' => Notation::Srcset,
        'data-lazy' => Notation::Url,
        'data-lazy-src' => Notation::Url,
        'data-lazy-srcset' => Notation::Srcset,
        'data-background' => Notation::Url,
        'data-background-image' => Notation::Url,
        'data-bg' => Notation::Url,
        'data-bg-set' => Notation::Srcset,
        'data-poster' => Notation::Url,
        'data-image' => Notation::Url,
        'data-thumb' => Notation::Url,
        'data-large' => Notation::Url,
        'data-full' => Notation::Url,
        'data-zoom' => Notation::Url,
    ];

    /**
     * The same rules but for what is named; false leaves a part as it is, since null says something of its own.
     *
     * @param  list<TokenPattern>|false  $tokens
     * @param  list<PathRule>|false  $paths
     * @param  array<string, string|null>|null  $typed
     * @param  list<string>|null  $mediaFolders
     */
    public function with(
        array|false $tokens = false,
        array|false $paths = false,
        string|false|null $role = false,
        string|false|null $target = false,
        Fetch|false|null $fetch = false,
        string|false|null $below = false,
        ?bool $idsAreWords = null,
        ?array $typed = null,
        ?array $mediaFolders = null,
    ): self {
        return new self(
            $tokens === false ? $this->tokens : $tokens,
            $paths === false ? $this->paths : $paths,
            $this->lazyAttributes,
            $role === false ? $this->role : $role,
            $target === false ? $this->target : $target,
            $mediaFolders ?? $this->mediaFolders,
            $fetch === false ? $this->fetch : $fetch,
            $this->elements,
            $this->tags,
            $this->comments,
            $below === false ? $this->below : $below,
            $idsAreWords ?? $this->idsAreWords,
            $this->schemes,
            $typed ?? $this->typed,
            $this->scripts,
            $this->encoding,
        );
    }

    /** Whether the site's own code puts something in the place of what stands in a text. */
    public function haveTokens(): bool
    {
        return $this->tokens !== [] || $this->tags !== [] || $this->comments !== [];
    }

    /** For what was looked through for tokens together with the text around it. */
    public function withoutTokens(): self
    {
        return $this->haveTokens()
            ? new self(
                [],
                $this->paths,
                $this->lazyAttributes,
                $this->role,
                $this->target,
                $this->mediaFolders,
                $this->fetch,
                $this->elements,
                below: $this->below,
                idsAreWords: $this->idsAreWords,
                schemes: $this->schemes,
                scripts: $this->scripts,
                encoding: $this->encoding,
            )
            : $this;
    }

    public function pathRule(string $path): ?PathRule
    {
        foreach ($this->paths as $rule) {
            if ($rule->matches($path)) {
                return $rule;
            }
        }

        return null;
    }

    /** Whether a bare string in a structured field is plainly meant as the address of a file. */
    public function looksLikeAddress(string $value): bool
    {
        if ($value === '' || strlen($value) > 2048 || strpbrk($value, "\n<>{}\"") !== false) {
            return false;
        }
        if (preg_match('~^(?:https?:)?//[^/\s]+/\S~i', $value) === 1) {
            return true;
        }
        $isOwn = ($this->schemes !== [] && OwnScheme::of($value, $this->schemes) !== null)
            || ($this->scripts !== [] && ThroughScript::of($value, $this->scripts) !== null);
        if ($isOwn) {
            return true;
        }
        foreach ($this->mediaFolders as $folder) {
            if (str_starts_with($value, $folder) || str_starts_with($value, ltrim($folder, '/'))) {
                return true;
            }
        }

        return false;
    }
}
