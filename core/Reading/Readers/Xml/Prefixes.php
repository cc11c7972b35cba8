<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Xml;

use Ylema\Reading\PatternGaveUp;

/**
 * Which prefix stands for which vocabulary, where the walk is (Namespaces in XML 1.0, 6). Only those vocabularies count
 * whose names mean something to a browser; without a declaration the usual prefixes keep their meaning, for fragments.
 *
 * @internal
 */
final class Prefixes
{
    public const XLINK = 'http://www.w3.org/1999/xlink';

    public const XHTML = 'http://www.w3.org/1999/xhtml';

    public const SVG = 'http://www.w3.org/2000/svg';

    private const DECLARATION = '~(?<![^\s"\'])xmlns(?::([^\s=]++))?+\s*+=\s*+(?:"([^"]*+)"|\'([^\']*+)\')~';

    private int $depth = 0;

    /** @var array<string, string> prefix, or nothing for elements without one → namespace */
    private array $bound = ['xlink' => self::XLINK, 'svg' => self::SVG, 'xhtml' => self::XHTML];

    /** @var list<array{int, array<string, string>}> depth of an element that declares → what counts behind its end */
    private array $before = [];

    /** A start tag; what it declares counts for itself as well. A page that declares nothing is meant as one. */
    public function open(string $name, string $attributes, bool $isEmpty): void
    {
        if ($name === 'html' && ! isset($this->bound[''])) {
            $attributes = ' xmlns="'.self::XHTML.'"'.$attributes;
        }
        $found = [];
        $declares = str_contains($attributes, 'xmlns')
            && preg_match_all(self::DECLARATION, $attributes, $found, PREG_SET_ORDER | PREG_UNMATCHED_AS_NULL) > 0;
        PatternGaveUp::check();
        if (! $isEmpty || $declares) {
            $this->depth++;
        }
        if ($declares) {
            $this->before[] = [$this->depth, $this->bound];
            foreach ($found as [, $prefix, $double, $single]) {
                $this->bound[(string) $prefix] = (string) ($double ?? $single);
            }
        }
    }

    /** An end tag, or the end of an empty element that declared something. */
    public function close(): void
    {
        $last = end($this->before);
        if ($last !== false && $last[0] === $this->depth) {
            $this->bound = $last[1];
            array_pop($this->before);
        }
        $this->depth = max(0, $this->depth - 1);
    }

    /** Whether an empty element declared something, and so is to be closed. */
    public function isDeclaredAt(): bool
    {
        $last = end($this->before);

        return $last !== false && $last[0] === $this->depth;
    }

    /** @return string the namespace of an element, or nothing where it has none or another */
    public function of(string $name): string
    {
        $colon = strpos($name, ':');

        return $this->bound[$colon === false ? '' : substr($name, 0, $colon)] ?? '';
    }

    /** Whether an attribute is the address of a link (XLink 1.1, 5.4). */
    public function isLink(string $attribute): bool
    {
        return str_ends_with($attribute, ':href') && $this->of($attribute) === self::XLINK;
    }

    /** A name without its prefix. */
    public static function local(string $name): string
    {
        $colon = strpos($name, ':');

        return $colon === false ? $name : substr($name, $colon + 1);
    }
}
