<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

/**
 * Whether a place in markup stands in SVG or MathML, where CDATA sections exist and no element's content is raw
 * text (HTML Standard, 13.2.6.5).
 *
 * Only the outermost `svg` and `math` are noted while walking. What lies between, elements that lead back to html
 * for a while (integration points) or for good, is looked at when somebody asks, each byte once.
 *
 * @internal
 */
final class ForeignContent
{
    /** Start tags that end foreign content; `font` does only with some attributes and is left out. */
    private const BREAKOUT = 'b|big|blockquote|body|br|center|code|dd|div|dl|dt|em|embed|h[1-6]|head|hr|i|img|li|listing|menu|meta|nobr|ol|p|pre|ruby|s|small|span|strong|strike|sub|sup|table|tt|u|ul|var';

    /** SVG's and MathML's html integration points and MathML's text integration points (13.2.6.5). */
    private const INTEGRATION = 'foreignobject|desc|title|annotation-xml|mi|mo|mn|ms|mtext';

    private int $depth = 0;

    private int $html = 0;

    private int $checked = 0;

    public function enter(int $behindTag): void
    {
        if ($this->depth++ === 0) {
            $this->checked = $behindTag;
            $this->html = 0;
        }
    }

    public function leave(): void
    {
        $this->depth = max(0, $this->depth - 1);
    }

    /** Nothing up to here is a tag: it was a CDATA section. */
    public function pass(int $offset): void
    {
        $this->checked = max($this->checked, $offset);
    }

    public function holds(string $text, int $offset): bool
    {
        if ($this->depth === 0) {
            return false;
        }
        $between = substr($text, $this->checked, $offset - $this->checked);
        $this->checked = $offset;
        preg_match_all('~<(?:(/?)('.self::INTEGRATION.')|('.self::BREAKOUT.'))(?=[\t\n\f\r />])[^>]*+(?<!/)>~i', $between, $tags, PREG_SET_ORDER | PREG_UNMATCHED_AS_NULL);
        foreach ($tags as $tag) {
            if ($tag[2] !== null) {
                $this->html = max(0, $this->html + ($tag[1] === '' ? 1 : -1));
            } elseif ($this->html === 0) {
                $this->depth = 0;

                return false;
            }
        }

        return $this->html === 0;
    }
}
