<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\Context;
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

/**
 * Markup, tokenised as the HTML Standard does (13.2.5), without building a tree.
 *
 * PCRE walks the tags with possessive patterns, so the time is linear in the length whatever the damage;
 * PHP is entered only for a tag that can matter: one with a role, a style, a lazy-loading attribute, or one
 * that gives context (headings, links, captions).
 */
final readonly class HtmlReader implements Reader
{
    private const WS = '[\t\n\f\r\x20]';

    /** Elements whose content is text to the tokeniser: no tags inside (13.2.5.2–4, 13.2.6.2). */
    private const RAW_TEXT = ['script', 'style', 'textarea', 'title', 'xmp', 'iframe', 'noembed', 'noframes', 'plaintext'];

    /** Elements that are noted even without attributes, for the context they give. */
    private const CONTEXT = 'h[1-6]|a|figure|figcaption|template|noscript';

    private string $walk;

    private string $attribute;

    public function __construct()
    {
        $ws = self::WS;
        $raw = implode('|', self::RAW_TEXT);
        $context = self::CONTEXT;
        // One attribute of 13.2.5.32–38: a name may begin with "=", a value may be missing or unquoted.
        $attribute = "[^\\t\\n\\f\\r\\x20/>][^\\t\\n\\f\\r\\x20/>=]*+(?:$ws*+=$ws*+(?:\"[^\"]*+\"|'[^']*+'|(?=>)|[^\\t\\n\\f\\r\\x20>\"'][^\\t\\n\\f\\r\\x20>]*+)|(?!$ws*+=))";
        $this->walk = "~
            (?: [^<]++
              | <(?![a-zA-Z/!?])
              | </?+(?!(?:$raw|$context)[\\t\\n\\f\\r\\x20/>])[a-zA-Z][^\\t\\n\\f\\r\\x20/>]*+>
              | <!--(?:-?+>|(?:[^-]++|-(?!-!?>))*+(?:--!?>|\\z))
              | <(?:[!?]|/(?![a-zA-Z]))[^>]*+(?:>|\\z)
            )*+
            (?: <(?<end>/)?+(?<name>[a-zA-Z][^\\t\\n\\f\\r\\x20/>]*+)
                (?<attributes>(?:$ws++|/(?!>)|$attribute)*+)/?+> )
            ~xAS";
        $this->attribute = "~(?<name>[^\\t\\n\\f\\r\\x20/>][^\\t\\n\\f\\r\\x20/>=]*+)(?:$ws*+=$ws*+(?:\"(?<double>[^\"]*+)\"|'(?<single>[^']*+)'|(?=>|\\z)|(?<bare>[^\\t\\n\\f\\r\\x20>\"'][^\\t\\n\\f\\r\\x20>]*+)))?+~S";
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        $outside = $found->surroundings();
        $at = 0;
        $link = $heading = $caption = null;
        $inert = 0;
        $lazy = $rules->lazyAttributes;
        $telling = $this->telling($lazy);
        while (preg_match($this->walk, $text, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL, $at) === 1) {
            $at = $m[0][1] + strlen((string) $m[0][0]);
            $name = strtolower((string) $m['name'][0]);
            if (isset($m['end'][0])) {
                if ($name === 'a') {
                    $link = null;
                } elseif ($name === 'figure') {
                    $caption = null;
                } elseif ($name === 'template' || $name === 'noscript') {
                    $inert = max(0, $inert - 1);
                }

                continue;
            }
            [$section, $sectionStart] = $m['attributes'];
            $section = (string) $section;
            if ($name === 'template' || $name === 'noscript') {
                $inert++;
            } elseif ($name === 'figure') {
                $caption = $this->captionAhead($text, $at);
            } elseif (strlen($name) === 2 && $name[0] === 'h' && ctype_digit($name[1])) {
                $heading = $this->textUntil($text, $at, '</'.$name);
            }
            if ($section !== '' && (isset(HtmlRoles::TABLE[$name]) || preg_match($telling, $section) === 1 || $name === 'base')) {
                $attributes = $this->attributes($section, $sectionStart);
                if ($name === 'a' && isset($attributes['href'])) {
                    $link = $attributes['href'][1];
                }
                if ($name === 'base') {
                    if (isset($attributes['href'])) {
                        $found->base($attributes['href'][1]);
                    }
                } else {
                    $values = array_map(static fn (array $attribute): string => $attribute[1], $attributes);
                    $found->surround(new Context(
                        element: $name, attributes: $values, link: $name === 'a' ? null : $link,
                        caption: $caption, heading: $heading,
                    ));
                    $this->element($slice, $name, $attributes, $values, $inert > 0, $found, $rules, $others);
                }
            }
            if (in_array($name, self::RAW_TEXT, true)) {
                $at = $this->rawText($slice, $name, $section, $at, $found, $rules, $others);
            }
        }
        $found->surround($outside);
    }

    /** @param  array<string, Notation>  $lazy */
    private function telling(array $lazy): string
    {
        $names = array_map(static fn (string $name): string => preg_quote($name, '~'), array_keys($lazy));

        return '~(?:^|[\t\n\f\r\x20"\'/])(?:style|'.implode('|', $names).')'.self::WS.'*+=~i';
    }

    /**
     * @return array<string, array{string, string, int, string, list<array{int, int}>}>
     *                                                                                  name → [raw, decoded, offset of the raw value, quote, breaks]; the first of duplicates wins
     */
    private function attributes(string $section, int $start): array
    {
        preg_match_all($this->attribute, $section, $matches, PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL);
        $attributes = [];
        foreach ($matches as $m) {
            $name = strtolower((string) $m['name'][0]);
            if (isset($attributes[$name])) {
                continue;
            }
            [$value, $quote] = match (true) {
                isset($m['double'][0]) => [$m['double'], '"'],
                isset($m['single'][0]) => [$m['single'], "'"],
                isset($m['bare'][0]) => [$m['bare'], ''],
                default => [['', $m[0][1] + strlen((string) $m[0][0])], ''],
            };
            [$raw, $offset] = $value;
            $raw = (string) $raw;
            [$decoded, $breaks] = CharacterReferences::decode($raw, $start + $offset);
            $attributes[$name] = [$raw, $decoded, $start + $offset, $quote, $breaks];
        }

        return $attributes;
    }

    /**
     * @param  array<string, array{string, string, int, string, list<array{int, int}>}>  $attributes
     * @param  array<string, string>  $values
     */
    private function element(
        Slice $slice, string $name, array $attributes, array $values, bool $inert,
        Collector $found, Rules $rules, FieldReader $others,
    ): void {
        $table = (HtmlRoles::TABLE[$name] ?? []) + HtmlRoles::TABLE['*'];
        foreach ($attributes as $attribute => [, $decoded, $offset, $quote, $breaks]) {
            if ($decoded === '') {
                continue;
            }
            [$notation, $fetch] = $table[$attribute] ?? [$rules->lazyAttributes[$attribute] ?? null, Fetch::OnCondition];
            if ($notation === null) {
                continue;
            }
            $fetch = $this->fetch($name, $attribute, $values, $fetch);
            if ($fetch === null) {
                continue;
            }
            if ($inert) {
                $fetch = $fetch === Fetch::Always ? Fetch::OnCondition : $fetch;
            }
            $role = $name.'['.$attribute.']';
            $inner = $slice->inner($decoded, $offset, $breaks, new HtmlAttribute($quote));
            if ($notation === Notation::Url) {
                $this->address($inner, $role, $fetch, $found);

                continue;
            }
            $around = $found->surroundings();
            // Style keeps its own words for what it does; a candidate list is named after its attribute.
            $others->into($inner, $notation, $found, $rules->forField($notation === Notation::Srcset ? $role : $rules->role, null));
            $found->surround($around);
        }
    }

    /** A valid URL potentially surrounded by spaces: the spaces are not part of it. */
    private function address(Slice $inner, string $role, Fetch $fetch, Collector $found): void
    {
        $trimmed = trim($inner->text, "\t\n\f\r ");
        if ($trimmed === '' || $trimmed[0] === '#') {
            return;
        }
        $found->add($inner, (int) strpos($inner->text, $trimmed), strlen($trimmed), $trimmed, Names::Address, $role, $fetch);
    }

    /**
     * Narrows the table's word for elements whose other attributes decide; null where the attribute refers to nothing.
     *
     * @param  array<string, string>  $values
     */
    private function fetch(string $name, string $attribute, array $values, Fetch $fetch): ?Fetch
    {
        if ($name === 'meta' && $attribute === 'content') {
            $says = strtolower($values['property'] ?? $values['name'] ?? $values['itemprop'] ?? '');

            return in_array($says, HtmlRoles::META, true) ? $fetch : null;
        }
        if ($name === 'link' && $attribute === 'href') {
            foreach (preg_split('~\s+~', strtolower(trim($values['rel'] ?? ''))) ?: [] as $relation) {
                if (isset(HtmlRoles::LINKS[$relation])) {
                    return isset($values['media']) && HtmlRoles::LINKS[$relation] === Fetch::Always ? Fetch::OnCondition : HtmlRoles::LINKS[$relation];
                }
            }

            return isset($values['itemprop']) ? Fetch::WhenFollowed : null;
        }
        if ($name === 'input' && strtolower($values['type'] ?? '') !== 'image') {
            return null;
        }
        if ($fetch !== Fetch::Always) {
            return $fetch;
        }
        $lazy = strtolower($values['loading'] ?? '') === 'lazy' && ($name === 'img' || $name === 'iframe');
        $chosen = $name === 'img' && $attribute === 'src' && isset($values['srcset']);
        $waits = ($name === 'audio' || ($name === 'video' && $attribute === 'src')) && strtolower($values['preload'] ?? '') === 'none';

        return $lazy || $chosen || $waits ? Fetch::OnCondition : $fetch;
    }

    /** @return int the offset after the element's end tag, or the end of the text */
    private function rawText(Slice $slice, string $name, string $section, int $at, Collector $found, Rules $rules, FieldReader $others): int
    {
        $text = $slice->text;
        if ($name === 'plaintext') {
            return strlen($text);
        }
        $length = strlen($text);
        $end = $length;
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
            $name === 'script' && preg_match('~type\s*=\s*["\']?[^"\'>]*json~i', $section) === 1 => Notation::Json,
            default => null,
        };
        if ($notation !== null && $end > $at) {
            $around = $found->surroundings();
            $found->surround(new Context(element: $name));
            $others->into(
                $slice->inner(substr($text, $at, $end - $at), $at, [], new RawText($name)),
                $notation, $found,
                $notation === Notation::Json ? $rules->forField('json-ld', null) : $rules,
            );
            $found->surround($around);
        }

        return $end;
    }

    private function captionAhead(string $text, int $at): ?string
    {
        $window = substr($text, $at, 4096);
        $end = stripos($window, '</figure');
        $figure = $end === false ? $window : substr($window, 0, $end);

        return preg_match('~<figcaption\b[^>]*>(.*?)(?:</figcaption|$)~is', $figure, $m) === 1 ? self::words($m[1]) : null;
    }

    private function textUntil(string $text, int $at, string $end): ?string
    {
        $window = substr($text, $at, 600);
        $stop = stripos($window, $end);

        return self::words($stop === false ? $window : substr($window, 0, $stop));
    }

    private static function words(string $markup): ?string
    {
        $plain = html_entity_decode(preg_replace('~<[^>]*+>~', '', $markup) ?? '', ENT_QUOTES | ENT_HTML5);
        $plain = trim(preg_replace('~\s+~', ' ', $plain) ?? '');

        return $plain === '' ? null : $plain;
    }
}
