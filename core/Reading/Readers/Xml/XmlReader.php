<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Xml;

use Ylema\Reading\Breaks;
use Ylema\Reading\Collector;
use Ylema\Reading\Decoding;
use Ylema\Reading\Encoding\CodePoint;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\HtmlRoles;
use Ylema\Reading\Layers\XmlText;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Reader;
use Ylema\Reading\Readers\Html\ScriptType;
use Ylema\Reading\Readers\StructuredValues;
use Ylema\Reading\Readers\TextReader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * XML 1.0, for feeds (RSS 2.0, RFC 4287), sitemaps with images, drawings (SVG 2), pages in XHTML, and any vocabulary of
 * which the field map says what its attributes are.
 *
 * Attributes and elements that hold addresses are known by name and namespace; other text is read by what it plainly
 * is, so that the escaped markup of a feed's description is found, too.
 */
final readonly class XmlReader implements Reader
{
    private const TOKENS = '~\G(?:([^<]++)|<!--(?:[^-]++|-(?!->))*+(?:-->|\z)|<!\[CDATA\[((?:[^\]]++|\](?!\]>))*+)(?:\]\]>|\z)|<\?(?!xml-stylesheet\s)(?:[^?]++|\?(?!>))*+(?:\?>|\z)|<![^>]*+(?:>|\z)|<(/?+)(\?xml-stylesheet(?=\s)|[^\s/>\x00?]++)((?:\s++|/(?!>)|\?(?!>)|[^\s/>=?]++(?:\s*+=\s*+(?:"[^"<]*+"|\'[^\'<]*+\'))?+)*+)([/?]?+)>)~S';

    /** The longest reference that is decoded: ten hundred thousand in decimal with its marks. */
    private const LONGEST = 10;

    /** Attributes of any vocabulary but XHTML that hold an address by their name. */
    private const ATTRIBUTES = [
        'url' => Notation::Url, 'href' => Notation::Url, 'src' => Notation::Url, 'poster' => Notation::Url,
        'data' => Notation::Url, 'background' => Notation::Url, 'srcset' => Notation::Srcset, 'style' => Notation::Css,
    ];

    /** Elements of feeds and sitemaps whose text is an address, without their prefixes. */
    private const ELEMENTS = [
        'loc' => true, 'thumbnail_loc' => true, 'content_loc' => true, 'player_loc' => true, 'url' => true,
        'link' => true, 'icon' => true, 'logo' => true, 'thumbnail' => true,
    ];

    /** What a browser that shows a drawing fetches by itself. */
    private const FETCHED = ['image' => true, 'use' => true, 'feimage' => true, 'script' => true];

    private StructuredValues $values;

    public function __construct()
    {
        $this->values = new StructuredValues;
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        $prefixes = new Prefixes;
        $element = $namespace = $type = '';
        $at = 0;
        while (preg_match(self::TOKENS, $text, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL, $at) === 1) {
            $at = $m[0][1] + strlen((string) $m[0][0]);
            if (isset($m[4][0])) {
                $element = $m[3][0] === '/' || $m[6][0] !== '' ? '' : $m[4][0];
                if ($m[3][0] === '/') {
                    $prefixes->close();

                    continue;
                }
                $section = (string) $m[5][0];
                $isEmpty = $m[6][0] !== '';
                $prefixes->open($m[4][0], $section, $isEmpty);
                $namespace = $prefixes->of($m[4][0]);
                if ($section !== '') {
                    $type = $this->attributes(
                        $slice, ltrim($m[4][0], '?'), $namespace, $prefixes, $section, $m[5][1], $found, $rules,
                        $others,
                    );
                    $isEmpty && $prefixes->isDeclaredAt() && str_contains($section, 'xmlns') && $prefixes->close();
                } else {
                    $type = '';
                }
            } elseif (isset($m[2][0])) {
                $this->text(
                    $slice, $element, $namespace, $type, $m[2][0], $m[2][1], XmlText::CDATA, $found, $rules, $others,
                );
            } elseif (isset($m[1][0])) {
                $this->text($slice, $element, $namespace, $type, $m[1][0], $m[1][1], '', $found, $rules, $others);
            }
        }
        if (! $found->gaveUp($slice, $at) && $at < strlen($text)) {
            $found->problem($slice->outer($at), 'The xml is damaged here; what follows was not read.');
        }
    }

    /** @return string the value of its type, which decides about what a script holds */
    private function attributes(
        Slice $slice, string $element, string $namespace, Prefixes $prefixes, string $section, int $start,
        Collector $found, Rules $rules, FieldReader $others,
    ): string {
        preg_match_all(
            '~([^\s/>=]++)\s*+=\s*+(?:"([^"]*+)"|\'([^\']*+)\')~S', $section, $matches,
            PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL,
        );
        $found->gaveUp($slice, $start);
        $local = Prefixes::local($element);
        $places = $values = [];
        foreach ($matches as $m) {
            $name = (string) $m[1][0];
            // Whatever its prefix, a link is a link, and what only looks like one is none.
            $name = $prefixes->isLink($name) ? 'xlink:href' : ($name === 'xlink:href' ? 'href of another' : $name);
            $quote = isset($m[2][0]) ? '"' : "'";
            [$raw, $offset] = isset($m[2][0]) ? $m[2] : ($m[3] ?? ['', 0]);
            [$value, $breaks] = self::decode((string) $raw, $start + $offset);
            $values[$name] ??= $value;
            $places[] = [$name, $slice->inner($value, $start + $offset, $breaks, new XmlText($quote))];
        }
        $isMapped = isset($rules->elements[$element]) || isset($rules->elements[$local]);
        foreach ($places as [$name, $inner]) {
            $own = $isMapped ? $rules->elements[$element][$name] ?? $rules->elements[$local][$name] ?? null : null;
            [$notation, $fetch, $role] = match (true) {
                $own !== null => [$own->notation, Fetch::OnCondition, $own->role ?? "{$element}[$name]"],
                $namespace === Prefixes::XHTML => self::ofXhtml($local, $name, $values),
                default => self::ofOthers($local, $namespace, $name, $inner->text, $values),
            };
            if ($notation === Notation::Url && $fetch !== null) {
                $this->address($inner, $role === '' ? "{$element}[$name]" : $role, $fetch, $found);
            } elseif ($notation !== null && $fetch !== null) {
                $others->into(
                    $inner, $notation, $found,
                    $rules->with(role: $role === '' ? "{$element}[$name]" : $role, target: $own?->target),
                );
            } elseif ($own === null && $fetch !== null && ! str_starts_with($name, 'xmlns')) {
                $this->free($inner, "{$element}[$name]", $found, $rules, $others);
            }
        }

        return $values['type'] ?? '';
    }

    /**
     * As on a page (HtmlRoles); names are in lower case there (XHTML 1.0, 4.2).
     *
     * @param  array<string, string>  $values
     * @return array{Notation|null, Fetch|null, string}
     */
    private static function ofXhtml(string $element, string $name, array $values): array
    {
        [$notation, $fetch] = HtmlRoles::TABLE[$element][$name]
            ?? HtmlRoles::TABLE['*'][$name]
            ?? [str_starts_with($name, 'on') ? Notation::JavaScript : null, Fetch::OnCondition];

        return [$notation, $notation === null ? $fetch : HtmlRoles::fetch($element, $name, $values, $fetch), ''];
    }

    /**
     * @param  array<string, string>  $values
     * @return array{Notation|null, Fetch|null, string}
     */
    private static function ofOthers(
        string $element, string $namespace, string $name, string $value, array $values,
    ): array {
        $isFetched = $element === 'xml-stylesheet' || isset(self::FETCHED[strtolower($element)]);
        $fetch = $isFetched ? Fetch::Always : Fetch::WhenFollowed;
        if ($name === 'xlink:href') {
            // The old spelling counts only without the new one (SVG 2, 16.1.6).
            return [Notation::Url, $isFetched && isset($values['href']) ? Fetch::OnCondition : $fetch, ''];
        }
        if (isset(HtmlRoles::PAINT[$name]) && stripos($value, 'url(') !== false) {
            return [Notation::Css, Fetch::OnCondition, ''];
        }
        if ($namespace === Prefixes::SVG && str_starts_with($name, 'on')) {
            return [Notation::JavaScript, Fetch::OnCondition, ''];
        }

        return [self::ATTRIBUTES[$name] ?? null, $fetch, ''];
    }

    /** An attribute of which nobody says what it is: what it plainly holds, where that can be a file of the site's. */
    private function free(Slice $inner, string $role, Collector $found, Rules $rules, FieldReader $others): void
    {
        if (strpbrk($inner->text, '/(') === false) {
            return;
        }
        $notation = StructuredValues::guess($inner->text, $rules->withoutTokens());
        $isElsewhere = $notation === Notation::Url
            && preg_match(HtmlRoles::FILE, $inner->text) !== 1
            && ! TextReader::isTelling($inner->text, $rules);
        if ($notation !== null && ! $isElsewhere) {
            $found->enterCondition();
            $others->into($inner, $notation, $found, $rules->withoutTokens()->with(role: $role, target: null));
            $found->leaveCondition();
        }
    }

    private function text(
        Slice $slice, string $element, string $namespace, string $type, string $raw, int $start, string $place,
        Collector $found, Rules $rules, FieldReader $others,
    ): void {
        if (trim($raw) === '') {
            return;
        }
        [$value, $breaks] = $place === XmlText::CDATA ? [$raw, null] : self::decode($raw, $start);
        $inner = $slice->inner($value, $start, $breaks, new XmlText($place), $element);
        $local = Prefixes::local($element);
        $isOfPages = $namespace === Prefixes::XHTML || $namespace === Prefixes::SVG;
        if (! $isOfPages && isset(self::ELEMENTS[$local])) {
            $this->address($inner, $element, Fetch::WhenFollowed, $found);
        } elseif ($local === 'style') {
            $others->into($inner, Notation::Css, $found, $rules);
        } elseif ($local === 'script') {
            $notation = ScriptType::notation($type) ?? StructuredValues::guess($value, $rules);
            if ($notation !== null) {
                $found->enterCondition();
                $others->into($inner, $notation, $found, $rules->with(role: 'script', target: null));
                $found->leaveCondition();
            }
        } else {
            $this->values->read($inner, $found, $rules, $others);
        }
    }

    private function address(Slice $inner, string $role, Fetch $fetch, Collector $found): void
    {
        $trimmed = trim($inner->text);
        if ($trimmed !== '' && $trimmed[0] !== '#') {
            $found->add(
                $inner, (int) strpos($inner->text, $trimmed), strlen($trimmed), $trimmed, Names::Address, $role, $fetch,
            );
        }
    }

    /**
     * The five predefined entities and character references (XML 1.0, 4.1 and 4.6); others stay as they are.
     *
     * @return array{string, Breaks|null}
     */
    private static function decode(string $raw, int $start): array
    {
        $decoding = new Decoding($raw, $start);
        for ($at = strpos($raw, '&'); $at !== false; $at = strpos($raw, '&', $at + 1)) {
            if (preg_match('~&(?:#x([0-9a-fA-F]{1,6})|#([0-9]{1,7})|(amp|lt|gt|quot|apos));~A', substr($raw, $at, self::LONGEST), $m) === 1) {
                $decoding->replace($at, strlen($m[0]), match (true) {
                    isset($m[3]) => ['amp' => '&', 'lt' => '<', 'gt' => '>', 'quot' => '"', 'apos' => "'"][$m[3]],
                    isset($m[2]) => CodePoint::character((int) $m[2]),
                    default => CodePoint::character((int) hexdec($m[1])),
                });
                $at += strlen($m[0]) - 1;
            }
        }

        return $decoding->done();
    }
}
