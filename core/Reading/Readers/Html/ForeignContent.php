<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Html;

use Ylema\Reading\PatternGaveUp;

/**
 * Whether a place in markup stands in SVG or MathML, where CDATA sections exist, no element's content is raw text and
 * html's elements are none (HTML Standard, 13.2.6.5).
 *
 * The walk only says where the first `svg` or `math` begins. From there on, the tags that lead in and out are looked at
 * when somebody asks, each byte once.
 *
 * @internal
 */
final class ForeignContent
{
    /** Start tags that end foreign content; `font` does only with some attributes and is left out. */
    private const BREAKOUT = 'b|big|blockquote|body|br|center|code|dd|div|dl|dt|em|embed|h[1-6]|head|hr|i|img|li|listing|menu|meta|nobr|ol|p|pre|ruby|s|small|span|strong|strike|sub|sup|table|tt|u|ul|var';

    /** Where html begins again: SVG's html integration points, and MathML's text integration points. */
    private const BACK = ['svg' => ['foreignobject', 'desc', 'title'], 'math' => ['mi', 'mo', 'mn', 'ms', 'mtext']];

    /** Elements without an end tag; they never stay open. */
    private const VOID = 'area|base|br|col|embed|hr|img|input|link|meta|source|track|wbr';

    private const NAMES = '(?:svg|math|foreignobject|desc|title|mi|mo|mn|ms|mtext|'.self::BREAKOUT
        .')(?=[\t\n\f\r\x20/>])';

    private const TAGS = '~\G(?:'.HtmlPatterns::NO_TAG.'|</?+(?!'.self::NAMES.')[a-z][^\t\n\f\r\x20/>]*+'
        .HtmlPatterns::ATTRIBUTES.'/?+>)*+<(?<slash>/?+)(?<name>'.self::NAMES.')'.HtmlPatterns::ATTRIBUTES.'/?+>~iS';

    /** @var list<string> names of what is open: svg, math, and between them what leads back to html */
    private array $open = [];

    private bool $isActive = false;

    private int $checked = 0;

    /** From the last tag that led back to html up to here, no element was opened; null where one was. */
    private ?int $bare = 0;

    /** Whether a start tag of this name ends foreign content, and so is itself html again. */
    public static function endsAt(string $name): bool
    {
        return preg_match('~^(?:'.self::BREAKOUT.')$~D', $name) === 1;
    }

    /** An `svg` or `math` begins at an offset. */
    public function enter(int $offset): void
    {
        if (! $this->isActive) {
            $this->isActive = true;
            $this->checked = $offset;
        }
    }

    /** Nothing up to here is a tag: it was raw text. */
    public function pass(int $offset): void
    {
        $this->checked = max($this->checked, $offset);
    }

    /** A CDATA section stands from one offset to another, or a comment that looks like one. */
    public function section(int $from, int $to): void
    {
        $this->pass($to);
        if ($this->bare === $from) {
            $this->bare = $to;
        }
    }

    public function holds(string $text, int $offset): bool
    {
        if (! $this->isActive) {
            return false;
        }
        if ($offset > $this->checked) {
            preg_match_all(
                self::TAGS, substr($text, $this->checked, $offset - $this->checked), $tags,
                PREG_SET_ORDER | PREG_OFFSET_CAPTURE,
            );
            PatternGaveUp::check();
            foreach ($tags as $tag) {
                $name = strtolower($tag['name'][0]);
                if ($tag['slash'][0] === '' || $name === 'p' || $name === 'br') {
                    $this->start(
                        $name, self::endsAt($name), str_ends_with($tag[0][0], '/>'),
                        $this->checked + $tag[0][1] + strlen($tag[0][0]),
                    );
                } else {
                    $this->close($name);
                }
            }
            $this->checked = $offset;
            $this->isActive = $this->open !== [];
        }

        return self::isForeign(end($this->open));
    }

    /**
     * Whether a CDATA section can stand at a place: also directly in an element that leads back to html, for that is
     * none of html's.
     */
    public function holdsSections(string $text, int $offset): bool
    {
        if ($this->holds($text, $offset)) {
            return true;
        }
        if ($this->bare === null || $this->open === []) {
            return false;
        }
        // Only now, for looking as far as the place may have opened an element that leads back to html. What was found
        // bare is not looked at again: sections may follow each other by the thousand.
        $since = substr($text, $this->bare, max(0, $offset - $this->bare));
        $isBare = preg_match('~<(?!(?:'.self::VOID.')[\t\n\f\r />])[a-z]~i', $since) !== 1;
        PatternGaveUp::check();
        $this->bare = $isBare ? $offset : null;

        return $isBare;
    }

    private function start(string $name, bool $breaksOut, bool $isEmpty, int $behind): void
    {
        $in = end($this->open);
        if ($breaksOut) {
            while (self::isForeign(end($this->open))) {
                array_pop($this->open);
            }
        } elseif (! $isEmpty && isset(self::BACK[$name])) {
            // "math" in a drawing is an element of the drawing, and the other way round.
            if (! self::isForeign($in) || $in === $name) {
                $this->open[] = $name;
            }
        } elseif (! $isEmpty && $in !== false && in_array($name, self::BACK[$in] ?? [], true)) {
            $this->open[] = $name;
            $this->bare = $behind;
        }
    }

    private function close(string $name): void
    {
        $at = array_search($name, array_reverse($this->open, true), true);
        if ($at !== false) {
            $this->open = array_slice($this->open, 0, $at);
        }
    }

    private static function isForeign(string|false $name): bool
    {
        return $name !== false && isset(self::BACK[$name]);
    }
}
