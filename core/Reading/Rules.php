<?php

declare(strict_types=1);

namespace Ylema\Reading;

/** What a site adds to the notations: its tokens, its structured paths, its lazy-loading attributes, its own hosts. */
final readonly class Rules
{
    /**
     * @param  list<TokenPattern>  $tokens
     * @param  list<PathRule>  $paths
     * @param  array<string, Notation>  $lazyAttributes lower-case attribute name → html, url, srcset or css
     * @param  string|null  $role the role that a whole-field reference plays: `featured`, `banner picture`
     * @param  string|null  $target the kind of record that a record-key field names
     * @param  list<string>  $mediaFolders root-relative folders such as `/media/`, which mark a bare string as an address
     * @param  Fetch|null  $fetch what a browser does with a whole-field address, where the field's place says so
     */
    public function __construct(
        public array $tokens = [],
        public array $paths = [],
        public array $lazyAttributes = self::LAZY,
        public ?string $role = null,
        public ?string $target = null,
        public array $mediaFolders = [],
        public ?Fetch $fetch = null,
    ) {
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

    /** The same rules with the role and target of one field. */
    public function forField(?string $role, ?string $target, ?Fetch $fetch = null): self
    {
        return new self($this->tokens, $this->paths, $this->lazyAttributes, $role, $target, $this->mediaFolders, $fetch ?? $this->fetch);
    }

    /** @param  list<PathRule>  $paths */
    public function withPaths(array $paths): self
    {
        return new self($this->tokens, $paths, $this->lazyAttributes, $this->role, $this->target, $this->mediaFolders, $this->fetch);
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
        foreach ($this->mediaFolders as $folder) {
            if (str_starts_with($value, $folder) || str_starts_with($value, ltrim($folder, '/'))) {
                return true;
            }
        }

        return false;
    }
}
