<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Html;

use Ylema\Reading\Collector;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layer;
use Ylema\Reading\Layers\HtmlAttribute;
use Ylema\Reading\Reader;
use Ylema\Reading\Readers\SrcsetReader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * Markup, tokenised as the HTML Standard does (13.2.5), without building a tree. HtmlWalk does the work; what all
 * walks share is kept here, since a site has thousands of fields and one set of rules.
 */
final class HtmlReader implements Reader
{
    private ?Rules $rules = null;

    /** @var array<string, HtmlPatterns> by the key of their rules */
    private array $patterns = [];

    /** @var array<string, Rules> role → the rules above with that role */
    private array $ruled = [];

    /** @var array<string, HtmlAttribute> quote → layer; they hold nothing else, so three serve all */
    public readonly array $attributes;

    public readonly SrcsetReader $candidates;

    /**
     * @var array{array<string, list<Layer>>, array<string, list<Layer>>}|null what layers() gives where nothing is
     *       around
     */
    private ?array $outermost = null;

    public function __construct()
    {
        $this->attributes = ['"' => new HtmlAttribute('"'), "'" => new HtmlAttribute("'"), '' => new HtmlAttribute('')];
        $this->candidates = new SrcsetReader;
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $this->patterns[$rules->key] ??= new HtmlPatterns($rules->lazyAttributes, $rules->elements);
        if ($this->rules !== $rules) {
            $this->rules = $rules;
            $this->ruled = [];
        }
        $outside = $found->surroundings();
        (new HtmlWalk($this, $this->patterns[$rules->key], $slice, $found, $rules, $others))->run();
        $found->surround(...$outside);
    }

    public function ruled(Rules $rules, string $role): Rules
    {
        return $this->rules === $rules
            ? $this->ruled[$role] ??= $rules->with(role: $role, target: null)
            : $rules->with(role: $role, target: null);
    }

    /**
     * The layers of an attribute's value, and those of a candidate in it, by the quote.
     *
     * @param  list<Layer>  $outer
     * @return array{array<string, list<Layer>>, array<string, list<Layer>>}
     */
    public function layers(array $outer): array
    {
        if ($outer === [] && $this->outermost !== null) {
            return $this->outermost;
        }
        $layers = $listed = [];
        foreach ($this->attributes as $quote => $layer) {
            $layers[$quote] = [...$outer, $layer];
            $listed[$quote] = [...$outer, $layer, $this->candidates->layer];
        }
        if ($outer === []) {
            $this->outermost = [$layers, $listed];
        }

        return [$layers, $listed];
    }
}
