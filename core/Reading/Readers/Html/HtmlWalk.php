<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Html;

use Ylema\Reading\Around\Markup;
use Ylema\Reading\Collector;
use Ylema\Reading\Encoding\LegacyDecoder;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\HtmlRoles;
use Ylema\Reading\Layer;
use Ylema\Reading\Layers\RawText;
use Ylema\Reading\Layers\XmlText;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Readers\Addresses;
use Ylema\Reading\Readers\StructuredValues;
use Ylema\Reading\Readers\TextReader;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * One walk through one stretch of markup.
 *
 * PCRE does the walking (see HtmlPatterns); PHP is entered only for a tag that can matter: one with a role, a style or
 * a lazy-loading attribute. What surrounds a reference is looked up in Around\Markup when somebody asks.
 *
 * @internal
 */
final class HtmlWalk
{
    /**
     * PCRE counts its steps within one match and gives up after a million, so it is given this many bytes at a time.
     */
    private const WINDOW = 131_072;

    private const SPACE = "\t\n\f\r ";

    /** Text, comments and CDATA sections in a drawing, up to a tag. */
    private const DRAWN = '~\G(?:[^<]++|<!\[CDATA\[(?:[^\]]++|\](?!\]>))*+(?:\]\]>|\z)|'.HtmlPatterns::COMMENT
        .'|<(?=[^a-z/!?])|<[!?](?!--|\[CDATA\[)[^>]*+>)*+~iS';

    private readonly string $text;

    /** @var array<string, list<Layer>> quote → the layers of an attribute's value */
    private readonly array $layers;

    /** @var array<string, list<Layer>> quote → the layers of a candidate in an attribute's value */
    private readonly array $listed;

    /** Nothing is between this markup and the outermost text that an offset or a length would have to be mended for. */
    private readonly bool $direct;

    /** Whether a byte that is not ASCII is in another encoding than UTF-8. */
    private readonly bool $isEncoded;

    private readonly int $base;

    /** @var array<string, Reference> see model() */
    private array $models = [];

    /** @var array<string, array{Reference, bool}|false> see usual() */
    private array $usuals = [];

    private readonly Markup $markup;

    private ?ForeignContent $foreign = null;

    /** The part of the text that PCRE looks at, and the offset at which it begins. */
    private string $window;

    private int $from = 0;

    /** Offset in the window. */
    private int $at = 0;

    private int $size = self::WINDOW;

    /** How many templates are open. */
    private int $inert = 0;

    /** @var array<string, int> element of INERT or CHOOSING → how many are open */
    private array $open = [];

    /** Whether the picture that is open had a source already, which a browser may take instead. */
    private bool $hasSource = false;

    private bool $hadBody = false;

    /** Whether the tag that is looked at stands in a drawing, or begins one. */
    private bool $isDrawn = false;

    public function __construct(
        private readonly HtmlReader $reader,
        private readonly HtmlPatterns $patterns,
        private readonly Slice $slice,
        private readonly Collector $found,
        private readonly Rules $rules,
        private readonly FieldReader $others,
    ) {
        $this->text = $slice->text;
        [$this->layers, $this->listed] = $reader->layers($slice->layers);
        $this->base = $slice->base ?? 0;
        $this->direct = $slice->base !== null
            && ! $slice->counted
            && ! $found->isConditional();
        $this->isEncoded = $found->charset !== null && ! $slice->decoded;
        $this->window = strlen($this->text) <= self::WINDOW ? $this->text : substr($this->text, 0, self::WINDOW);
        $this->markup = new Markup($found->document, $slice);
    }

    public function run(): void
    {
        $pattern = $this->patterns->walk;
        while (true) {
            if (preg_match($pattern, $this->window, $m, 0, $this->at) !== 1) {
                // Only a tag of hundreds of thousands of attributes is too much; go on behind it.
                $this->found->gaveUp($this->slice, $this->from + $this->at);
                $next = strpos($this->window, '>', $this->at);
                $this->at = $next === false ? strlen($this->window) : $next + 1;

                continue;
            }
            $this->at += strlen($m[0]);
            if (! isset($m[1])) {
                if (! $this->further()) {
                    return;
                }
            } elseif (! isset($m[2])) {
                $this->tag($m[1]);
            } elseif (isset($m[7])) {
                $this->twoAttributes($m);
            } else {
                // The shortest way for what most references are.
                $length = strlen($m[4]);
                $start = $this->from + $this->at - strlen($m[5]) - $length;
                // A late attribute may hold a list or more; a link may be script.
                $isSource = $m[1][1] === 's' || $m[1][1] === 'S';
                if ($isSource && $this->foreign !== null) {
                    $this->tag($m[1].$m[4].$m[5]);

                    continue;
                }
                if (
                    $isSource
                    || (isset($m[2][4])
                        ? strpbrk($m[4], ',|({[') !== false
                        : ($m[4][0] === 'j' || $m[4][0] === 'J'))
                ) {
                    $this->isDrawn = false;
                    $this->hasSource = $this->hasSource || ($isSource && ($this->open['picture'] ?? 0) > 0);
                    $this->usual(
                        $isSource ? 'source' : ($m[1][1] === 'i' || $m[1][1] === 'I' ? 'img' : 'a'),
                        strtolower($m[2]), $m[4], $start, $m[3], [], $start - strlen($m[1]),
                    );

                    continue;
                }
                $waits = $this->inert > 0 || $this->hasSource || (isset($m[6]) && HtmlRoles::isLazy($m[6]));
                $model = $this->models[$m[1][1].$m[2].$m[3].($waits ? '?' : '')] ?? $this->model(
                    $m[1][1], $m[2], $m[3], $waits,
                );
                if ($model === null) {
                    continue;
                }
                if ($this->isDirect($m[4])) {
                    $this->found->references[] = $model->at(
                        $this->base + $start, $length, $m[4], $start - strlen($m[1]),
                    );
                } else {
                    $this->found->token(
                        $this->slice, $start, $m[4], $model->role, $model->fetch, $model->layers, $this->markup,
                        $start - strlen($m[1]),
                    );
                }
            }
        }
    }

    private function isDirect(string $value): bool
    {
        return $this->direct && (! $this->isEncoded || preg_match('~[\x80-\xFF]~', $value) !== 1);
    }

    /**
     * A reference without a place, for all images or links with the same attribute, quote and fetching.
     *
     * @return Reference|null null where the attribute means nothing on this element, such as `src` on a link
     */
    private function model(string $letter, string $attribute, string $quote, bool $waits): ?Reference
    {
        [
            $notation, $fetch, $role,
        ] = $this->patterns->rows[$letter === 'i' || $letter === 'I' ? 'img' : 'a'][strtolower($attribute)] ?? [
            null, Fetch::Always, '',
        ];
        if ($notation === null) {
            return null;
        }

        return $this->models[$letter.$attribute.$quote.($waits ? '?' : '')] =
            new Reference(
                0, 0, '', $role, $waits && $fetch === Fetch::Always ? Fetch::OnCondition : $fetch,
                $this->layers[$quote], $this->markup, 0, $this->slice->path,
            );
    }

    /** Moves the window on to where all before was read; false at the end of the text. */
    private function further(): bool
    {
        if ($this->from + strlen($this->window) >= strlen($this->text)) {
            return false;
        }
        // A tag is cut by the window's end: begin with it, and where that was no help, take more.
        $this->size = $this->at === 0 ? 2 * $this->size : self::WINDOW;
        $this->from += $this->at;
        $this->window = substr($this->text, $this->from, $this->size);
        $this->at = 0;

        return true;
    }

    /** Goes on at an offset of the text. */
    private function goTo(int $offset): void
    {
        $this->at = $offset - $this->from;
        if ($this->at > strlen($this->window)) {
            $this->from = $offset;
            $this->at = 0;
            $this->window = substr($this->text, $offset, self::WINDOW);
        }
    }

    /**
     * An image or link with two telling attributes.
     *
     * @param  array<array-key, string>  $m see HtmlPatterns::$walk
     */
    private function twoAttributes(array $m): void
    {
        $element = $m[1][1] === 'i' || $m[1][1] === 'I' ? 'img' : 'a';
        $secondAt = $this->from + $this->at - strlen($m[9]) - strlen($m[8]);
        $firstAt = $secondAt - strlen($m[5]) - strlen($m[4]);
        $anchor = $firstAt - strlen($m[1]);
        $this->isDrawn = false;
        $first = strtolower($m[2]);
        $second = strtolower($m[6]);
        if ($first !== 'srcset' && $second !== 'srcset' && stripos($m[1].$m[5].$m[9], 'loading') !== false) {
            // Only beside a list it makes no difference whether the picture waits.
            $this->tag($m[1].$m[4].$m[5].$m[8].$m[9]);

            return;
        }
        $values = $first === 'srcset' || $second === 'srcset' || $this->hasSource ? ['srcset' => ''] : [];
        $this->usual($element, $first, $m[4], $firstAt, $m[3], $values, $anchor);
        // The first of two attributes of one name wins (13.2.5.33).
        if ($second !== $first) {
            $this->usual($element, $second, $m[8], $secondAt, $m[7], $values, $anchor);
        }
    }

    /**
     * An attribute of which no other one of its tag says more than $values do, so that what was found out for the first
     * of its kind serves for all that follow.
     *
     * @param  array<string, string>  $values
     */
    private function usual(
        string $element, string $attribute, string $raw, int $start, string $quote, array $values, int $anchor,
    ): void {
        $key = "$element $attribute$quote".($values === [] ? '' : '+').($this->inert > 0 ? '?' : '')
            .($this->hasSource ? '!' : '');
        $usual = $this->usuals[$key] ??= $this->usualOf($element, $attribute, $quote, $values);
        if ($usual === false || ! $this->isDirect($raw)) {
            $this->attribute($element, $attribute, $raw, $start, $quote, $values, $anchor);

            return;
        }
        [$model, $isList] = $usual;
        if (! $isList) {
            if ($raw === '' || $raw[0] === '#' || strpbrk($raw, self::SPACE) !== false) {
                $this->attribute($element, $attribute, $raw, $start, $quote, $values, $anchor);
            } else {
                $this->found->references[] = $model->at($this->base + $start, strlen($raw), $raw, $anchor);
            }

            return;
        }
        $candidates = $this->reader->candidates->plain($raw);
        if ($candidates === null) {
            $this->attribute($element, $attribute, $raw, $start, $quote, $values, $anchor);

            return;
        }
        $start += $this->base;
        foreach ($candidates[1] as $i => $value) {
            $this->found->references[] = $model->at($start, strlen($value), $value, $anchor, $candidates[2][$i]);
            $start += strlen($candidates[0][$i]);
        }
    }

    /**
     * @param  array<string, string>  $values
     * @return array{Reference, bool}|false a reference without a place, and whether it is one of a list; false where
     *       each value has to be looked at
     */
    private function usualOf(string $element, string $attribute, string $quote, array $values): array|false
    {
        [$notation, $fetch, $role] = $this->patterns->rows[$element][$attribute] ?? [null, Fetch::Always, '*'];
        $isLink = $element === 'a' || isset($attribute[4]);
        if ($role[0] === '*' || ($notation !== Notation::Srcset && ($notation !== Notation::Url || $isLink))) {
            return false;
        }
        if ($values !== []) {
            $fetch = HtmlRoles::fetch($element, $attribute, $values, $fetch);
        }
        if ($fetch === Fetch::Always && $this->waits($element, $attribute)) {
            $fetch = Fetch::OnCondition;
        }
        $isList = $notation === Notation::Srcset;
        $layers = $isList ? $this->listed[$quote] : $this->layers[$quote];

        return $fetch === null
            ? false
            : [new Reference(0, 0, '', $role, $fetch, $layers, $this->markup, 0, $this->slice->path), $isList];
    }

    private function tag(string $tag): void
    {
        $behind = $this->from + $this->at;
        $offset = $behind - strlen($tag);
        if ($tag[1] === '!') {
            // Elsewhere than in foreign content a CDATA section is a comment up to the next ">" (13.2.5.42).
            $mark = $this->foreign?->holdsSections($this->text, $offset) === true ? ']]>' : '>';
            $end = strpos($this->text, $mark, $offset);
            $end = $end === false ? strlen($this->text) : $end + strlen($mark);
            $this->foreign?->section($offset, $end);
            $this->goTo($end);

            return;
        }
        if ($tag[1] === '/') {
            $name = strtolower(substr($tag, 2, strcspn($tag, self::SPACE.'/>', 2)));
            if (($this->open[$name] ?? 0) > 0) {
                $this->open[$name]--;
                $this->inert -= isset(HtmlPatterns::INERT[$name]) ? 1 : 0;
                $this->hasSource = $this->hasSource && $name !== 'picture';
            }

            return;
        }
        $length = strcspn($tag, self::SPACE.'/>');
        $name = strtolower(substr($tag, 1, $length - 1));
        $foreign = $this->foreign !== null
            && $this->foreign->holds($this->text, $offset)
            && ! ForeignContent::endsAt($name);
        $this->isDrawn = $foreign;
        if (isset(HtmlPatterns::FOREIGN[$name])) {
            $this->foreign ??= new ForeignContent;
            $this->foreign->enter($offset);
            $this->isDrawn = true;
        } elseif ($foreign) {
            // An element of html in a drawing is one of the drawing, of no meaning.
            $name = HtmlRoles::DRAWING[$name] ?? "svg:$name";
        } elseif (isset(HtmlPatterns::INERT[$name]) || isset(HtmlPatterns::CHOOSING[$name])) {
            $this->open[$name] = ($this->open[$name] ?? 0) + 1;
            $this->inert += isset(HtmlPatterns::INERT[$name]) ? 1 : 0;
        } elseif ($name === 'image') {
            // 13.2.6.4.7: a start tag named "image" is taken for "img".
            $name = 'img';
        }
        $section = substr($tag, $length, -1);
        $values = $section === '' ? [] : $this->attributes($name, $section, $offset + $length, $offset);
        if ($name === 'base' && isset($values['href']) && $this->inert === 0) {
            $this->found->base($values['href'], $this->slice->outer($offset));
        } elseif ($name === 'source' && isset($values['srcset']) && ($this->open['picture'] ?? 0) > 0) {
            $this->hasSource = true;
        } elseif ($name === 'body') {
            $this->hadBody = true;
        }
        if ($foreign && ($name === 'svg:style' || $name === 'svg:script')) {
            $this->drawnText(substr($name, 4), $values, $behind, $offset);
        } elseif (! $foreign && isset(HtmlPatterns::RAW_TEXT[$name])) {
            $this->rawText($name, $values, $behind, $offset);
        }
    }

    /**
     * @param  string  $section the attributes of a tag
     * @param  int  $start where they begin
     * @return array<string, string> the decoded values of those that decide about another; the others are there, but
     *       empty
     */
    private function attributes(string $element, string $section, int $start, int $anchor): array
    {
        // Every match begins where the one before ended, so places follow from lengths and need not be captured.
        $isOwn = str_contains($element, '-');
        preg_match_all($isOwn ? HtmlPatterns::ANY_ATTRIBUTE : $this->patterns->attribute, $section, $matches);
        $this->found->gaveUp($this->slice, $start);
        $rows = $this->patterns->rows[$element] ?? [];
        $isBase = $element === 'base';
        $values = $places = [];
        $end = $start;
        foreach ($matches[0] as $i => $whole) {
            $end += strlen($whole);
            $name = strtolower($matches[1][$i]);
            if (isset($values[$name])) {
                continue;
            }
            $raw = $matches[2][$i];
            $quote = $raw !== '' && ($raw[0] === '"' || $raw[0] === "'") ? $raw[0] : '';
            $raw = $quote === '' ? $raw : substr($raw, 1, -1);
            if ($isBase || isset(HtmlPatterns::DECIDING[$name])) {
                $values[$name] = CharacterReferences::decode($raw, 0)[0];
                // Nearly all that decide about others hold nothing themselves.
                if (! $isOwn && ! isset($rows[$name])) {
                    continue;
                }
            } else {
                $values[$name] = '';
            }
            if ($raw !== '') {
                $places[$name] = [$raw, $end - strlen($raw) - strlen($quote), $quote];
            }
        }
        foreach ($places as $name => [$raw, $offset, $quote]) {
            $this->attribute($element, $name, $raw, $offset, $quote, $values, $anchor);
        }

        return $values;
    }

    /**
     * One attribute, if it is a reference.
     *
     * @param  string  $raw the value as it is written
     * @param  int  $start of the value
     * @param  array<string, string>  $values of the attributes that decide about it
     */
    private function attribute(
        string $element, string $attribute, string $raw, int $start, string $quote, array $values, int $anchor,
    ): void {
        [$notation, $fetch, $role] = $this->patterns->rows[$element][$attribute]
            ?? $this->patterns->rows['*'][$attribute]
            ?? $this->unlisted($attribute);
        if ($notation === null) {
            $this->free($element, $attribute, $raw, $start, $quote, $anchor);

            return;
        }
        if ($attribute === 'content' && strcasecmp($values['http-equiv'] ?? '', 'refresh') === 0) {
            $this->refresh($raw, $start, $quote, $anchor);

            return;
        }
        if ($values !== []) {
            $fetch = HtmlRoles::fetch($element, $attribute, $values, $fetch);
            if ($fetch === null) {
                return;
            }
        }
        if ($role[0] === '*') {
            $role = $element.substr($role, 1);
        }
        if ($fetch === Fetch::Always && $this->waits($element, $attribute)) {
            $fetch = Fetch::OnCondition;
        }
        if ($notation === Notation::Url && ($element === 'a' || isset($attribute[4]))) {
            $notation = $this->within($attribute, $raw);
        }
        if (strpbrk($raw, "&\r\0") === false) {
            if ($notation === Notation::Url) {
                // A valid URL potentially surrounded by spaces: the spaces are not part of it.
                $trimmed = trim($raw, self::SPACE);
                if ($trimmed !== '' && $trimmed[0] !== '#') {
                    $start += $trimmed === $raw ? 0 : strspn($raw, self::SPACE);
                    if ($this->isDirect($trimmed)) {
                        $model = $this->models["$role$quote=$fetch->value"] ??= new Reference(
                            0, 0, '', $role, $fetch, $this->layers[$quote], $this->markup, 0, $this->slice->path,
                        );
                        $this->found->references[] = $model->at(
                            $this->base + $start, strlen($trimmed), $trimmed, $anchor,
                        );
                    } else {
                        $this->found->token(
                            $this->slice, $start, $trimmed, $role, $fetch, $this->layers[$quote], $this->markup,
                            $anchor,
                        );
                    }
                }

                return;
            }
            $candidates = $notation === Notation::Srcset ? $this->reader->candidates->plain($raw) : null;
            if ($candidates !== null) {
                $layers = $this->listed[$quote];
                $model = $this->isDirect($raw)
                    ? $this->models[$role.$quote.$fetch->value] ??= new Reference(
                        0, 0, '', $role, $fetch, $layers, $this->markup, 0, $this->slice->path,
                    )
                    : null;
                foreach ($candidates[1] as $i => $value) {
                    if ($model !== null) {
                        $this->found->references[] = $model->at(
                            $this->base + $start, strlen($value), $value, $anchor, $candidates[2][$i],
                        );
                    } else {
                        $this->found->token(
                            $this->slice, $start, $value, $role, $fetch, $layers, $this->markup, $anchor,
                            $candidates[2][$i],
                        );
                    }
                    $start += strlen($candidates[0][$i]);
                }

                return;
            }
        }
        $inner = $this->value($raw, $start, $this->reader->attributes[$quote]);
        $value = $inner->text;
        $this->found->surround($this->markup, $anchor);
        if ($notation === Notation::Url) {
            $trimmed = trim($value, self::SPACE);
            if ($trimmed !== '' && $trimmed[0] !== '#') {
                $this->found->add(
                    $inner, strspn($value, self::SPACE), strlen($trimmed), $trimmed, Names::Address, $role, $fetch,
                );
            }
        } elseif ($notation === Notation::Html) {
            // A document in an attribute has a base of its own; tokens in it were read with the text around it.
            $this->found->enterDocument();
            $this->others->into($inner, $notation, $this->found, $this->withoutTokens());
            $this->found->leaveDocument();
        } else {
            // Style keeps its own words for what it does; a list, and an id, are named after their attribute.
            $isNamed = in_array($notation, [Notation::Srcset, Notation::Addresses, Notation::MediaId], true);
            $this->others->into(
                $inner, $notation, $this->found, $isNamed ? $this->reader->ruled($this->rules, $role) : $this->rules,
            );
        }
    }

    /**
     * What an attribute is that stands in no table: an event handler, or paint in a drawing.
     *
     * @return array{Notation|null, Fetch, string}
     */
    private function unlisted(string $attribute): array
    {
        return match (true) {
            $this->isDrawn && isset(HtmlRoles::PAINT[$attribute]) => [Notation::Css, Fetch::Always, 'css url'],
            str_starts_with($attribute, 'on') => [Notation::JavaScript, Fetch::OnCondition, 'script'],
            default => [null, Fetch::Always, ''],
        };
    }

    /** The value of an attribute, or text in a drawing, without its encoding and its character references. */
    private function value(string $raw, int $start, Layer $layer): Slice
    {
        $slice = $this->slice;
        if ($this->found->charset !== null && ! $slice->decoded && strpbrk($raw, "&\r\0") !== false) {
            // What references stand for is UTF-8 and would be taken for bytes of the text.
            $part = LegacyDecoder::decode($slice, $raw, $start, $this->found->charset);
            [$slice, $raw, $start] = [$part ?? $slice, $part->text ?? $raw, $part === null ? $start : 0];
        }
        [$value, $breaks] = CharacterReferences::decode($raw, $start);

        return $slice->inner($value, $start, $breaks, $layer);
    }

    /** An attribute that a script or a form gives its own meaning: what its value plainly is. */
    private function free(
        string $element, string $attribute, string $raw, int $start, string $quote, int $anchor,
    ): void {
        $isOwn = str_contains($element, '-');
        if (! $isOwn && $attribute !== 'value' && ! str_starts_with($attribute, 'data-')) {
            return;
        }
        $inner = $this->value($raw, $start, $this->reader->attributes[$quote]);
        $value = $inner->text;
        $rules = $this->withoutTokens();
        $notation = StructuredValues::guess($value, $rules);
        if ($isOwn && $notation === null && preg_match(HtmlRoles::FILE, $value) === 1) {
            $notation = isset(HtmlRoles::OWN[$attribute]) ? Notation::Url : null;
        }
        // Anybody may name pages of others there; what counts is what can be a file of the site's.
        if (
            $notation === null
            || ($notation === Notation::Url
                && preg_match(HtmlRoles::FILE, $value) !== 1
                && ! TextReader::isTelling($value, $rules))
        ) {
            return;
        }
        $this->found->surround($this->markup, $anchor);
        $this->found->enterDocument();
        $this->found->enterCondition();
        $this->others->into(
            $inner, $notation, $this->found, $this->reader->ruled($rules, $element.'['.$attribute.']'),
        );
        $this->found->leaveCondition();
        $this->found->leaveDocument();
    }

    /** Whether something before decides that what a browser fetches at once is not fetched here, or not by all. */
    private function waits(string $element, string $attribute): bool
    {
        return $this->inert > 0
            || ($element === 'img' && $attribute === 'src' && $this->hasSource)
            || ($element === 'object' && $attribute === 'data' && ($this->open['object'] ?? 0) > 1)
            || ($element === 'body' && $attribute === 'background' && $this->hadBody)
            // A frame is one of a set, and a page with a body has none (13.2.6.4.7).
            || ($element === 'frame' && (($this->open['frameset'] ?? 0) === 0 || $this->hadBody));
    }

    /** What the value of an attribute is that may be more than the one address that it is made for. */
    private function within(string $attribute, string $raw): Notation
    {
        if (isset($this->rules->lazyAttributes[$attribute])) {
            return Addresses::notation(html_entity_decode($raw, ENT_QUOTES | ENT_HTML5)) ?? Notation::Url;
        }

        return strncasecmp(ltrim($raw), 'javascript:', 11) === 0 ? Notation::JavaScript : Notation::Url;
    }

    /** Where a page leads on by itself (4.2.5.3, "refresh"): only the address behind the seconds. */
    private function refresh(string $raw, int $start, string $quote, int $anchor): void
    {
        $inner = $this->value($raw, $start, $this->reader->attributes[$quote]);
        $value = $inner->text;
        $pattern = '~^\s*+[\d.]*+\s*+[;,]?\s*+(?:url\s*+=\s*+)?(?:"([^"]++)"?|\'([^\']++)\'?|([^\s"\'].*?))\s*$~is';
        if (preg_match($pattern, $value, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL) === 1) {
            [$address, $at] = $m[1][0] !== null ? $m[1] : ($m[2][0] !== null ? $m[2] : $m[3]);
            $this->found->surround($this->markup, $anchor);
            $this->found->add(
                $inner, $at, strlen((string) $address), (string) $address, Names::Address, 'meta[refresh]',
                Fetch::WhenFollowed,
            );
        }
    }

    private ?Rules $plainRules = null;

    private function withoutTokens(): Rules
    {
        return $this->plainRules ??= $this->rules->withoutTokens();
    }

    /**
     * Style and script in a drawing: text like any other there, with character references and CDATA sections
     * (13.2.6.5).
     *
     * @param  array<string, string>  $values of the start tag's attributes
     */
    private function drawnText(string $element, array $values, int $at, int $anchor): void
    {
        if ($this->text[$at - 2] === '/') {
            return;
        }
        // Up to the next tag, whichever it is: one of html would end the drawing.
        preg_match(self::DRAWN, $this->text, $m, 0, $at);
        $end = $at + strlen($m[0] ?? '');
        $notation = $element === 'style' ? Notation::Css : ScriptType::notation($values['type'] ?? '');
        if ($notation !== null) {
            $this->found->surround($this->markup, $anchor);
            preg_match_all(
                '~<!\[CDATA\[(.*?)(?:\]\]>|\z)|'.HtmlPatterns::COMMENT.'|<|([^<]++)~s',
                substr($this->text, $at, $end - $at), $parts,
                PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL,
            );
            $this->found->gaveUp($this->slice, $at);
            foreach ($parts as $part) {
                $isSection = $part[1][0] !== null;
                [$raw, $offset] = $isSection ? $part[1] : ($part[2] ?? [null, -1]);
                if ($raw !== null && $raw !== '') {
                    $layer = new XmlText($isSection ? XmlText::CDATA : '');
                    $this->others->into(
                        $isSection
                            ? $this->slice->inner($raw, $at + $offset, null, $layer)
                            : $this->value($raw, $at + $offset, $layer),
                        $notation, $this->found, $this->rules,
                    );
                }
            }
        }
        $this->foreign?->pass($end);
        $this->goTo($end);
    }

    /** @param  array<string, string>  $values of the start tag's attributes */
    private function rawText(string $element, array $values, int $at, int $anchor): void
    {
        $end = RawTextEnd::of($this->text, $element, $at);
        $notation = match ($element) {
            'style' => Notation::Css,
            'script' => ScriptType::notation($values['type'] ?? '')
                ?? StructuredValues::guess(substr($this->text, $at, $end - $at), $this->withoutTokens()),
            // Text to a browser that runs scripts, and markup to one that does not (13.2.6.4.7).
            'noscript' => Notation::Html,
            default => null,
        };
        if ($notation !== null && $end > $at) {
            $this->found->surround($this->markup, $anchor);
            // Markup that a script may put on the page, or that only some browsers show, is a document of its own; and
            // what stands in data is nothing before a script takes it.
            $isOther = $notation !== Notation::JavaScript && ($element !== 'style' || ! HtmlRoles::isSheet($values));
            $isOther && $this->found->enterDocument();
            if ($this->inert > 0 || $isOther) {
                $this->found->enterCondition();
            }
            $this->others->into(
                $this->slice->inner(substr($this->text, $at, $end - $at), $at, null, new RawText($element)),
                $notation, $this->found,
                match ($notation) {
                    Notation::Json => ScriptType::isLinkedData($values['type'] ?? '')
                        ? $this->rules->with(role: 'json-ld', target: null, fetch: Fetch::WhenFollowed)
                        : $this->rules->with(role: 'script', target: null),
                    Notation::Html => $this->withoutTokens(),
                    default => $this->rules,
                },
            );
            if ($this->inert > 0 || $isOther) {
                $this->found->leaveCondition();
            }
            $isOther && $this->found->leaveDocument();
        }
        // Its end tag is none of the drawing's around it.
        $this->foreign?->pass($end + strlen("</$element"));
        $this->goTo($end);
    }
}
