<?php

declare(strict_types=1);

namespace Ylema\Reading\Around;

use Ylema\Reading\Context;
use Ylema\Reading\Encoding\LegacyDecoder;
use Ylema\Reading\Fetch;
use Ylema\Reading\Layers\HtmlAttribute;
use Ylema\Reading\Layers\NewAttribute;
use Ylema\Reading\Names;
use Ylema\Reading\Readers\Html\CharacterReferences;
use Ylema\Reading\Readers\Html\HtmlPatterns;
use Ylema\Reading\Reference;
use Ylema\Reading\Slice;

/**
 * One stretch of markup, shared by all references in it. The anchor of each is the offset of its start tag.
 *
 * Headings, figures and links are looked up when they are first asked for, in a pass over the text.
 *
 * @internal
 */
final class Markup implements Surroundings
{
    /** Headings and captions longer than this are cut; they are for the eye. */
    private const LONGEST = 600;

    /** A start tag with all its attributes (HTML Standard, 13.2.5.6). */
    private const TAG = '~\G<[a-z][^\t\n\f\r\x20/>]*+'.HtmlPatterns::ATTRIBUTES.'/?+>~iS';

    /** What a comment or a script holds is no landmark. */
    private const NONE =
        HtmlPatterns::COMMENT
        .'(*SKIP)(*FAIL)|<(?:script|style)(?=[\t\n\f\r\x20/>])'
        .HtmlPatterns::ATTRIBUTES
        .'/?+>(?:[^<]++|<(?!/s))*+(*SKIP)(*FAIL)|';

    private const LANDMARKS = '~'.self::NONE.'<(?:h[1-6]|/?figure)(?=[\t\n\f\r\x20/>])~iS';

    private const LINKS = '~'.self::NONE.'</?a(?=[\t\n\f\r\x20/>])~iS';

    private ?Landmarks $headings = null;

    private ?Landmarks $figures = null;

    /** A text has a link every few words, and most of what is asked for is a link itself; so they wait. */
    private ?Landmarks $links = null;

    /** The anchor that was asked for last: the candidates of a list share one. */
    private int $anchor = -1;

    /** @var array{string, array<string, string>, string|null, string|null, string|null} see around() */
    private array $around;

    /** @var array{int, string|null} offset and words of the heading that was asked for last */
    private array $heading = [-1, null];

    /** @var array{int, string|null} the same of a figure's caption */
    private array $caption = [-1, null];

    private readonly string $text;

    public function __construct(private readonly Document $document, private readonly Slice $slice)
    {
        $this->text = $slice->text;
    }

    public function document(): Document
    {
        return $this->document;
    }

    public function context(int $start, int $anchor, ?string $path, ?string $descriptor): Context
    {
        [$line, $column] = $this->document->place($start);
        if ($this->anchor !== $anchor) {
            $this->around = $this->around($anchor);
            $this->anchor = $anchor;
        }
        [$element, $attributes, $link, $caption, $heading] = $this->around;

        return new Context(
            $line, $column, $element, $attributes, $link, $caption, $heading, $path, null, $descriptor,
        );
    }

    public function tag(int $anchor): ?array
    {
        // A blanked slice and a decoded one have other bytes than the outermost text, or stand elsewhere in it.
        if ($this->slice->base !== 0 || preg_match(self::TAG, $this->text, $m, 0, $anchor) !== 1) {
            return null;
        }

        return [$anchor, strlen($m[0])];
    }

    /** Whether a text is one start tag and nothing else. */
    public static function isTag(string $text): bool
    {
        return preg_match(self::TAG, $text, $m) === 1 && $m[0] === $text;
    }

    public function beside(int $anchor, string $attribute, ?string $path): ?Reference
    {
        if (($this->text[$anchor] ?? '') !== '<') {
            return null;
        }
        $behind = $anchor + 1 + strcspn($this->text, "\t\n\f\r />", $anchor + 1);
        $element = strtolower(substr($this->text, $anchor + 1, $behind - $anchor - 1));
        $place = Attributes::place($this->text, $behind, $attribute);
        // An attribute that is not there is written right behind the element's name, where nothing can swallow it.
        [$offset, $raw, $layer] =
            $place === null
                ? [$behind, '', new NewAttribute($attribute)]
                : [$place[0], $place[1], new HtmlAttribute($place[2])];
        [$value, $breaks] = CharacterReferences::decode($raw, $offset);
        $inner = $this->slice->inner($value, $offset, $breaks, $layer);
        $start = $inner->outer(0);

        return new Reference(
            $start,
            $inner->outer(strlen($value)) - $start,
            $value,
            $element.'['.$attribute.']',
            Fetch::WhenFollowed,
            $inner->layers,
            $this,
            $anchor,
            $path,
            names: Names::Words,
            lengths: $inner->counted ? $inner->lengthsOf(0, strlen($value)) : [],
        );
    }

    public function stretches(Reference $reference, int $anchor): ?array
    {
        $isAt = fn (int $offset): bool => $this->slice->outer($offset) === $reference->start;
        $pieces = (new Pieces($this->text))->of($anchor, $reference->role, $isAt);

        return $pieces === null
            ? null
            : array_map(function (array $piece) use ($reference, $anchor): Reference {
                [$from, $to] = $piece;
                $start = $this->slice->outer($from);

                return new Reference(
                    $start,
                    $this->slice->outer($to) - $start,
                    substr($this->text, $from, $to - $from),
                    $reference->role,
                    Fetch::Never,
                    $this->slice->layers,
                    $this,
                    $anchor,
                    $reference->path,
                    names: Names::Stretch,
                    lengths: $this->slice->counted ? $this->slice->lengthsOf($from, $to) : [],
                );
            }, $pieces);
    }

    /**
     * @return array{string, array<string, string>, string|null, string|null, string|null} element, attributes, link,
     *       caption, heading
     */
    private function around(int $anchor): array
    {
        if ($this->headings === null) {
            $this->survey();
        }
        $heading = $this->headings?->lastBefore($anchor) ?? -1;
        $figure = $this->figures?->lastBefore($anchor) ?? -1;
        [$element, $attributes] = $this->element($anchor);
        // A link ends the one before it (HTML Standard, 13.2.6.4.7, "a start tag whose tag name is a").
        $link = $element === 'a' ? -1 : ($this->links ??= $this->links())->lastBefore($anchor);

        return [
            $element,
            $attributes,
            $link >= 0 ? $this->element($link)[1]['href'] ?? null : null,
            $figure >= 0 ? $this->caption($figure) : null,
            $heading >= 0 ? $this->words($heading) : null,
        ];
    }

    private function survey(): void
    {
        $headings = $figures = $ends = [];
        preg_match_all(self::LANDMARKS, $this->text, $m, PREG_OFFSET_CAPTURE);
        foreach ($m[0] as [$tag, $offset]) {
            if ($tag[1] === 'h' || $tag[1] === 'H') {
                $headings[] = $offset;
            } else {
                $figures[] = $offset;
                if ($tag[1] === '/') {
                    $ends[$offset] = true;
                }
            }
        }
        $this->headings = new Landmarks($headings, []);
        $this->figures = $figures === [] ? null : new Landmarks($figures, $ends);
    }

    private function links(): Landmarks
    {
        $links = $ends = [];
        preg_match_all(self::LINKS, $this->text, $m, PREG_OFFSET_CAPTURE);
        foreach ($m[0] as [$tag, $offset]) {
            $links[] = $offset;
            if ($tag[1] === '/') {
                $ends[$offset] = true;
            }
        }

        return new Landmarks($links, $ends);
    }

    /**
     * The element whose start tag begins at an offset.
     *
     * @return array{string, array<string, string>} lower-case name, and attributes with decoded values
     */
    private function element(int $tag): array
    {
        $length = strcspn($this->text, "\t\n\f\r />", $tag + 1);

        return [
            strtolower(substr($this->text, $tag + 1, $length)),
            Attributes::of($this->text, $tag + 1 + $length, $this->document),
        ];
    }

    private function words(int $heading): ?string
    {
        if ($this->heading[0] !== $heading) {
            $this->heading = [
                $heading,
                $this->plain(
                    '~\G<(h[1-6])'.HtmlPatterns::ATTRIBUTES.'/?+>(?<words>.*?)(?:</\1|$)~is',
                    substr($this->text, $heading, self::LONGEST),
                ),
            ];
        }

        return $this->heading[1];
    }

    private function caption(int $figure): ?string
    {
        if ($this->caption[0] !== $figure) {
            $this->caption = [
                $figure,
                $this->plain(
                    '~\G(?:[^<]++|<(?!figcaption[\s>]|/figure[\s>]))*+<figcaption'
                        .HtmlPatterns::ATTRIBUTES
                        .'/?+>(?<words>.*?)(?:</figcaption|$)~is',
                    substr($this->text, $figure, 8 * self::LONGEST),
                ),
            ];
        }

        return $this->caption[1];
    }

    private function plain(string $pattern, string $window): ?string
    {
        if (preg_match($pattern, $window, $m) !== 1) {
            return null;
        }
        $words = mb_strcut($m['words'], 0, self::LONGEST, 'UTF-8');
        $plain = html_entity_decode(
            preg_replace('~<[^>]*+>~', '', LegacyDecoder::text($words, $this->document->charset)) ?? '',
            ENT_QUOTES | ENT_HTML5,
        );
        $words = trim(preg_replace('~\s+~', ' ', $plain) ?? '');

        return $words === '' ? null : $words;
    }
}
