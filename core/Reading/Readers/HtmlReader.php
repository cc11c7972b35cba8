<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\HtmlRoles;
use Ylema\Reading\Layers\HtmlAttribute;
use Ylema\Reading\Layers\RawText;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;
use Ylema\Reading\Surroundings;

/**
 * Markup, tokenised as the HTML Standard does (13.2.5), without building a tree.
 *
 * PCRE walks the tags with possessive patterns, so the time is linear in the length whatever the damage;
 * PHP is entered only for a tag that can matter: one with a role, a style, a lazy-loading attribute, or one
 * that gives context. The context itself is worked out only where a reference is found.
 */
final class HtmlReader implements Reader
{
    private const WS = '[\t\n\f\r\x20]';

    /** Elements whose content is text to the tokeniser: no tags inside (13.2.5.2–4, 13.2.6.2). */
    private const RAW_TEXT = ['script' => true, 'style' => true, 'textarea' => true, 'title' => true, 'xmp' => true, 'iframe' => true, 'noembed' => true, 'noframes' => true, 'plaintext' => true];

    /** Elements whose start is noted for the context that they give. */
    private const CONTEXT = ['h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'a', 'figure', 'base'];

    /** Elements whose content a browser does not show, or not always; their ends are noted, too. */
    private const INERT = ['template' => true, 'noscript' => true];

    /** @var array<string, string> the lazy attributes' names → the pattern that walks to the next tag that matters */
    private array $walks = [];

    /** @var array<string, array<string, string>> element → attribute → role, so that one string serves all */
    private array $roles = [];

    private readonly string $attribute;

    /** @var array<string, HtmlAttribute> quote → layer; they hold nothing else, so three serve all */
    private readonly array $layers;

    public function __construct()
    {
        $ws = self::WS;
        // One attribute of 13.2.5.32–38: a name may begin with "=", a value may be missing or unquoted.
        $this->attribute = "~\\G[\\t\\n\\f\\r\\x20/]*+([^\\t\\n\\f\\r\\x20/>][^\\t\\n\\f\\r\\x20/>=]*+)(?:$ws*+=$ws*+(\"[^\"]*+\"|'[^']*+'|[^\\t\\n\\f\\r\\x20>\"'][^\\t\\n\\f\\r\\x20>]*+)?+)?+~S";
        $this->layers = ['"' => new HtmlAttribute('"'), "'" => new HtmlAttribute("'"), '' => new HtmlAttribute('')];
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        $outside = $found->surroundings();
        $around = new Surroundings($text);
        $walk = $this->walk($rules->lazyAttributes);
        $inert = $at = 0;
        while (preg_match($walk, $text, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $at = $m[0][1] + strlen($m[0][0]);
            $name = strtolower($m[2][0]);
            if ($m[1][0] !== '') {
                $inert = max(0, $inert - 1);

                continue;
            }
            [$section, $start] = $m[3];
            if (isset(self::INERT[$name])) {
                $inert++;
            } elseif ($name === 'figure') {
                $around->figure($at);
            } elseif (strlen($name) === 2 && ctype_digit($name[1])) {
                $around->heading($name, $at);
            }
            if ($section !== '') {
                $this->tag($slice, $name, $section, $start, $at, $inert > 0, $around, $found, $rules, $others);
            }
            if (isset(self::RAW_TEXT[$name])) {
                $at = $this->rawText($slice, $name, $section, $at, $found, $rules, $others);
            }
        }
        $found->surround($outside);
    }

    /**
     * The pattern that skips text, comments and all tags that cannot matter, and stops behind the next one that can:
     * group 1 the slash of an end tag, 2 the name, 3 the attributes.
     *
     * @param  array<string, Notation>  $lazy
     */
    private function walk(array $lazy): string
    {
        $key = implode('|', array_keys($lazy));
        if (isset($this->walks[$key])) {
            return $this->walks[$key];
        }
        $ws = self::WS;
        $end = '[\t\n\f\r\x20/>]';
        $telling = implode('|', array_map(static fn (string $name): string => preg_quote($name, '~'), ['style', ...array_keys($lazy)]));
        $raw = implode('|', array_keys(self::RAW_TEXT));
        $inert = implode('|', array_keys(self::INERT));
        $named = implode('|', [$raw, $inert, ...self::CONTEXT, ...array_map(static fn (string $n): string => preg_quote($n, '~'), array_diff(array_keys(HtmlRoles::TABLE), ['*']))]);
        $value = "(?:$ws*+=$ws*+(?:\"[^\"]*+\"|'[^']*+'|(?=>)|[^\\t\\n\\f\\r\\x20>\"'][^\\t\\n\\f\\r\\x20>]*+)|(?!$ws*+=))";
        $attribute = "[^\\t\\n\\f\\r\\x20/>][^\\t\\n\\f\\r\\x20/>=]*+$value";
        $dull = "(?!(?:$telling)(?=$end|=))$attribute";

        return $this->walks[$key] = "~\\G
            (?: [^<]++
              | <(?![a-z/!?])
              | /?+>
              | </(?!(?:$inert)$end)[a-z][^\\t\\n\\f\\r\\x20/>]*+(?:$ws++|/(?!>)|$attribute)*+/?+>
              | <(?!(?:$named)$end)[a-z][^\\t\\n\\f\\r\\x20/>]*+(?:$ws++|/(?!>)|$dull)*+/?+>
              | <!--(?:-?+>|(?:[^-]++|-(?!-!?>))*+(?:--!?>|\\z))
              | <(?:[!?]|/(?![a-z]))[^>]*+(?:>|\\z)
            )*+\\K
            <(/?+)([a-z][^\\t\\n\\f\\r\\x20/>]*+)((?:$ws++|/(?!>)|$attribute)*+)/?+>
            ~xiS";
    }

    private function tag(Slice $slice, string $name, string $section, int $start, int $at, bool $inert, Surroundings $around, Collector $found, Rules $rules, FieldReader $others): void
    {
        // Every match begins where the one before ended, so places follow from lengths and need not be captured.
        preg_match_all($this->attribute, $section, $matches);
        /** @var array<string, string> $values */
        $values = [];
        $raw = [];
        $end = $start;
        foreach ($matches[0] as $i => $whole) {
            $end += strlen($whole);
            $key = strtolower($matches[1][$i]);
            // The first of two attributes of one name wins (13.2.5.33).
            if (isset($values[$key])) {
                continue;
            }
            $value = $matches[2][$i];
            $quote = '';
            $offset = $end - strlen($value);
            if ($value !== '' && ($value[0] === '"' || $value[0] === "'")) {
                $quote = $value[0];
                $value = substr($value, 1, -1);
                $offset++;
            }
            $breaks = [];
            if (strpbrk($value, "&\r\0") !== false) {
                [$value, $breaks] = CharacterReferences::decode($value, $offset);
            }
            $values[$key] = $value;
            $raw[$key] = [$offset, $quote, $breaks];
        }
        if ($name === 'a') {
            $around->link($values['href'] ?? null, $at);
        } elseif ($name === 'base') {
            if (isset($values['href'])) {
                $found->base($values['href']);
            }

            return;
        }
        $table = HtmlRoles::TABLE[$name] ?? [];
        $noted = false;
        foreach ($raw as $attribute => [$offset, $quote, $breaks]) {
            $rule = $table[$attribute] ?? HtmlRoles::TABLE['*'][$attribute] ?? null;
            if ($rule !== null) {
                [$notation, $fetch] = $rule;
            } elseif (isset($rules->lazyAttributes[$attribute])) {
                $notation = $rules->lazyAttributes[$attribute];
                $fetch = Fetch::OnCondition;
            } else {
                continue;
            }
            $value = $values[$attribute];
            if ($value === '' || ($notation === Notation::Css && strpos($value, '(') === false)) {
                continue;
            }
            $fetch = $this->fetch($name, $attribute, $values, $fetch);
            if ($fetch === null) {
                continue;
            }
            if ($inert && $fetch === Fetch::Always) {
                $fetch = Fetch::OnCondition;
            }
            if (! $noted) {
                // What is a reference itself need not be kept as the context of the others.
                $around->element($name, array_diff_key($values, $table, $rules->lazyAttributes), $start);
                $found->surround($around);
                $noted = true;
            }
            $inner = $slice->inner($value, $offset, $breaks, $this->layers[$quote]);
            if ($notation === Notation::Url) {
                // A valid URL potentially surrounded by spaces: the spaces are not part of it.
                $trimmed = trim($value, "\t\n\f\r ");
                if ($trimmed !== '' && $trimmed[0] !== '#') {
                    $found->add($inner, strspn($value, "\t\n\f\r "), strlen($trimmed), $trimmed, Names::Address, $this->roles[$name][$attribute] ??= $name.'['.$attribute.']', $fetch);
                }

                continue;
            }
            // Style keeps its own words for what it does; a candidate list is named after its attribute.
            $others->into($inner, $notation, $found, $rules->forField($notation === Notation::Srcset ? $name.'['.$attribute.']' : $rules->role, null));
            $found->surround($around);
        }
    }

    /**
     * Narrows the table's word for elements whose other attributes decide; null where the attribute refers to nothing.
     *
     * @param  array<string, string>  $values
     */
    private function fetch(string $name, string $attribute, array $values, Fetch $fetch): ?Fetch
    {
        switch ($name) {
            case 'img':
            case 'iframe':
                // With a candidate list, src is only what browsers without one take.
                $waits = strtolower($values['loading'] ?? '') === 'lazy' || ($name === 'img' && $attribute === 'src' && isset($values['srcset']));

                return $waits && $fetch === Fetch::Always && $attribute !== 'style' ? Fetch::OnCondition : $fetch;
            case 'meta':
                if ($attribute !== 'content') {
                    return $fetch;
                }
                $says = strtolower($values['property'] ?? $values['name'] ?? $values['itemprop'] ?? '');

                return in_array($says, HtmlRoles::META, true) ? $fetch : null;
            case 'link':
                return $attribute === 'href' ? $this->linked($values) : $fetch;
            case 'input':
                return $attribute === 'src' && strtolower($values['type'] ?? '') !== 'image' ? null : $fetch;
            case 'audio':
            case 'video':
                return $attribute === 'src' && strtolower($values['preload'] ?? '') === 'none' ? Fetch::OnCondition : $fetch;
            default:
                return $fetch;
        }
    }

    /** @param  array<string, string>  $values of a link element */
    private function linked(array $values): ?Fetch
    {
        foreach (preg_split('~\s+~', strtolower(trim($values['rel'] ?? ''))) ?: [] as $relation) {
            $fetch = HtmlRoles::LINKS[$relation] ?? null;
            if ($fetch !== null) {
                return isset($values['media']) && $fetch === Fetch::Always ? Fetch::OnCondition : $fetch;
            }
        }

        return isset($values['itemprop']) ? Fetch::WhenFollowed : null;
    }

    /** @return int the offset of the element's end tag, or the end of the text */
    private function rawText(Slice $slice, string $name, string $section, int $at, Collector $found, Rules $rules, FieldReader $others): int
    {
        $text = $slice->text;
        $end = strlen($text);
        if ($name === 'plaintext') {
            return $end;
        }
        $from = $at;
        while (($from = stripos($text, '</'.$name, $from)) !== false) {
            // An end tag is one only if the name ends there (13.2.5.14).
            if (strspn($text, "\t\n\f\r />", $from + 2 + strlen($name), 1) === 1) {
                $end = $from;
                break;
            }
            $from++;
        }
        $notation = match (true) {
            $name === 'style' => Notation::Css,
            $name !== 'script' => null,
            preg_match('~type\s*=\s*["\']?[^"\'>]*json~i', $section) === 1 => Notation::Json,
            preg_match('~type\s*=~i', $section) !== 1 || preg_match('~type\s*=\s*["\']?(?:text/|application/)?(?:x-)?(?:javascript|ecmascript|module)["\'\s>]?~i', $section) === 1 => Notation::JavaScript,
            default => null,
        };
        if ($notation !== null && $end > $at) {
            $before = $found->surroundings();
            $inside = new Surroundings($text);
            $inside->element($name, [], $at);
            $found->surround($inside);
            $others->into(
                $slice->inner(substr($text, $at, $end - $at), $at, [], new RawText($name)),
                $notation, $found,
                $notation === Notation::Json ? $rules->forField('json-ld', null) : $rules,
            );
            $found->surround($before);
        }

        return $end;
    }
}
