<?php

declare(strict_types=1);

namespace Ylema\Reading\Around;

use Ylema\Reading\Context;
use Ylema\Reading\Readers\LegacyDecoder;

/**
 * One stretch of markup, shared by all references in it. The anchor of each is the offset of its start tag.
 *
 * Headings, figures and links are looked up when the first context is asked for, in one pass over the text.
 *
 * @internal
 */
final class Markup implements Surroundings
{
    /** Headings and captions longer than this are cut; they are for the eye. */
    private const LONGEST = 600;

    private const LONGEST_TAG = 8192;

    /** What a comment or a script holds is no landmark. */
    private const LANDMARKS = '~<!--(?:[^-]++|-(?!->))*+-->(*SKIP)(*FAIL)|<(?:script|style)\b[^>]*+>(?:[^<]++|<(?!/s))*+(*SKIP)(*FAIL)|<(?:(?<heading>h[1-6])|(?<figure>/?figure)|(?<link>/?a))(?=[\t\n\f\r\x20/>])~iS';

    /** @var array{list<int>, list<int>, list<int>}|null offsets of headings, of figures and of links; an end tag's is negative */
    private ?array $landmarks = null;

    /** @var array{int, string|null} offset and words of the heading that was asked for last */
    private array $heading = [-1, null];

    /** @var array{int, string|null} the same of a figure's caption */
    private array $caption = [-1, null];

    public function __construct(private readonly Document $document, private readonly string $text)
    {
    }

    public function document(): Document
    {
        return $this->document;
    }

    public function context(int $start, int $anchor, ?string $path, ?string $descriptor): Context
    {
        $this->landmarks ??= $this->survey();
        [$headings, $figures, $links] = $this->landmarks;
        [$line, $column] = $this->document->place($start);
        [$element, $attributes] = $this->element($anchor);
        $heading = self::lastBefore($headings, $anchor);
        $figure = self::lastBefore($figures, $anchor);
        $link = self::lastBefore($links, $anchor);

        return new Context(
            $line, $column, $element, $attributes,
            $link >= 0 ? $this->element($link)[1]['href'] ?? null : null,
            $figure >= 0 ? $this->caption($figure) : null,
            $heading >= 0 ? $this->words($heading) : null,
            $path, null, $descriptor,
        );
    }

    /** @return array{list<int>, list<int>, list<int>} */
    private function survey(): array
    {
        $headings = $figures = $links = [];
        $at = 0;
        while (preg_match(self::LANDMARKS, $this->text, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $offset = $m[0][1];
            $at = $offset + strlen($m[0][0]);
            $mark = $m[0][0][1] === '/' ? -$offset - 1 : $offset;
            if (isset($m['link'])) {
                $links[] = $mark;
            } elseif (isset($m['figure'])) {
                $figures[] = $mark;
            } else {
                $headings[] = $mark;
            }
        }

        return [$headings, $figures, $links];
    }

    /**
     * @param  list<int>  $landmarks
     * @return int the last one before an offset; negative where it is an end tag, or there is none
     */
    private static function lastBefore(array $landmarks, int $offset): int
    {
        $low = 0;
        $high = count($landmarks);
        while ($low < $high) {
            $middle = ($low + $high) >> 1;
            $at = $landmarks[$middle];
            if (($at < 0 ? -$at - 1 : $at) < $offset) {
                $low = $middle + 1;
            } else {
                $high = $middle;
            }
        }

        return $low === 0 ? -1 : $landmarks[$low - 1];
    }

    /**
     * The element whose start tag begins at an offset.
     *
     * @return array{string, array<string, string>} lower-case name, and attributes with decoded values
     */
    private function element(int $tag): array
    {
        $section = substr($this->text, $tag + 1, self::LONGEST_TAG);
        $length = strcspn($section, "\t\n\f\r />");

        return [strtolower(substr($section, 0, $length)), Attributes::of($section, $length)];
    }

    private function words(int $heading): ?string
    {
        if ($this->heading[0] !== $heading) {
            $this->heading = [$heading, self::plain('~\G<(h[1-6])[^>]*+>(?<words>.*?)(?:</\1|$)~is', substr($this->text, $heading, self::LONGEST))];
        }

        return $this->heading[1];
    }

    private function caption(int $figure): ?string
    {
        if ($this->caption[0] !== $figure) {
            $this->caption = [$figure, self::plain('~\G(?:[^<]++|<(?!figcaption[\s>]|/figure[\s>]))*+<figcaption[^>]*+>(?<words>.*?)(?:</figcaption|$)~is', substr($this->text, $figure, 8 * self::LONGEST))];
        }

        return $this->caption[1];
    }

    private static function plain(string $pattern, string $window): ?string
    {
        if (preg_match($pattern, $window, $m) !== 1) {
            return null;
        }
        $plain = html_entity_decode(preg_replace('~<[^>]*+>~', '', LegacyDecoder::text(mb_strcut($m['words'], 0, self::LONGEST, 'UTF-8'))) ?? '', ENT_QUOTES | ENT_HTML5);
        $words = trim(preg_replace('~\s+~', ' ', $plain) ?? '');

        return $words === '' ? null : $words;
    }
}
