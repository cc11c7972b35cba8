<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\HtmlAttribute;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * Markup, tokenised as the HTML Standard does (13.2.5), without building a tree. HtmlWalk does the work; what all
 * walks share is kept here, since a site has thousands of fields and one set of rules.
 */
final class HtmlReader implements Reader
{
    /** @var array<string, HtmlPatterns> by the names of the lazy-loading attributes */
    private array $patterns = [];

    private ?Rules $rules = null;

    /** @var array<string, Rules> role → the rules above with that role */
    private array $ruled = [];

    /** @var array<string, HtmlAttribute> quote → layer; they hold nothing else, so three serve all */
    public readonly array $attributes;

    public readonly SrcsetReader $candidates;

    public function __construct()
    {
        $this->attributes = ['"' => new HtmlAttribute('"'), "'" => new HtmlAttribute("'"), '' => new HtmlAttribute('')];
        $this->candidates = new SrcsetReader;
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        if ($this->rules !== $rules) {
            $this->rules = $rules;
            $this->ruled = [];
        }
        $patterns = $this->patterns[self::key($rules)] ??= new HtmlPatterns($rules->lazyAttributes);
        $outside = $found->surroundings();
        (new HtmlWalk($this, $patterns, $slice, $found, $rules, $others))->run();
        $found->surround(...$outside);
    }

    public function ruled(Rules $rules, string $role): Rules
    {
        return $this->rules === $rules ? $this->ruled[$role] ??= $rules->forField($role, null) : $rules->forField($role, null);
    }

    private static function key(Rules $rules): string
    {
        $key = '';
        foreach ($rules->lazyAttributes as $name => $notation) {
            $key .= $name.'='.$notation->value.' ';
        }

        return $key;
    }
}
