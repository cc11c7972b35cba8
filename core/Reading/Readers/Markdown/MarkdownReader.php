<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Markdown;

use Generator;
use Ylema\Reading\Collector;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\MarkdownDestination;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Reader;
use Ylema\Reading\Readers\StructuredValues;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * CommonMark: images, links, reference definitions, the markup inside, and front matter before it.
 *
 * Code hides what stands in it, be it fenced, indented or in backticks.
 */
final readonly class MarkdownReader implements Reader
{
    /** A link destination (6.3): groups 1 in angle brackets, 2 bare, with balanced parentheses. */
    private const DESTINATION = '(?:<((?:[^<>\\\\\n]++|\\\\.)*+)>'
        .'|((?!<)(?:[^\s()\\\\\x00-\x1F]++|\\\\.|(?<balanced>\((?:[^\s()\\\\\x00-\x1F]++|\\\\.|(?&balanced))*+\)))++))';

    private const TITLE = '(?:"(?:[^"\\\\]++|\\\\.)*+"|\'(?:[^\'\\\\]++|\\\\.)*+\'|\((?:[^()\\\\]++|\\\\.)*+\))';

    /** The size that several programs take behind an address: `=300x200`, `=300x`, `=x200`, `=50%`. */
    private const SIZE = '(?:[ \t\n]++=(?:\d++%?(?:x\d*+%?)?|x\d++%?)(?:[ \t\n]++'.self::TITLE.')?)?+';

    /** What a line of a quote or a list begins with (5.1, 5.2). */
    private const CONTAINERS = '(?:[ \t]*+(?:>|[-+*](?=[ \t])|\d{1,9}[.)](?=[ \t]))[ \t]?+)*+ {0,3}';

    /**
     * What binds tighter than links, in the order of its beginning (6.1, 6.5, 6.6): groups 1 an escape or a
     * destination in angle brackets, 2 a code span, 4 an autolink's address, 5 a tag, comment or the like; else a run
     * of backticks that opens nothing.
     */
    private const TIGHT = '~(\\\\[!-/:-@\[-`{-\~]|\](?:\([ \t\n]*+|:[ \t]*+\n?[ \t]*+)<(?:[^<>\\\\\n]++|\\\\.)*+>(?=[ '
        .'\t\n)]|$))|((?<!`)(`++)(?!`)(?:(?!\n[ \t]*\n).)*?(?<!`)\3(?!`))|<([a-z][a-z0-9+.-]{1,31}:[^\s<>\x00-\x1F]*+)>'
        .'|(<[a-z][a-z0-9-]*+(?:\s++[a-z_:][a-z0-9_.:-]*+(?:\s*+=\s*+(?:[^\s"\'=<>`]++|\'[^\']*+\'|"[^"]*+"))?+)*+\s*+'
        .'/?+>|</[a-z][a-z0-9-]*+\s*+>|<!--(?:-?>|.*?-->)|<\?.*?\?>|<![a-z][^>]*+>|<!\[CDATA\[.*?\]\]>)|`++~isS';

    /** Blocks of markup that no inline rule touches (4.6, kinds 1, 2 and 6). */
    private const BLOCKS = '~^ {0,3}(?:<(script|pre|style|textarea)(?=[\s>]).*?(?:</\1>[^\n]*|\z)|<!--.*?'
        .'(?:-->[^\n]*|\z)|</?(?:address|article|aside|base|basefont|blockquote|body|caption|center|col'
        .'|colgroup|dd|details|dialog|dir|div|dl|dt|fieldset|figcaption|figure|footer|form|frame|frameset|h[1-6]'
        .'|head|header|hr|html|iframe|legend|li|link|main|menu|menuitem|nav|noframes|ol|optgroup|option|p|param|search'
        .'|section|summary|table|tbody|td|tfoot|th|thead|title|tr|track|ul)(?=[\s>]|/>|$)(?:(?!\n[ \t]*\n).)*+)~msiS';

    private FrontMatter $frontMatter;

    private MarkdownDestination $angled;

    private MarkdownDestination $bare;

    public function __construct()
    {
        $this->angled = new MarkdownDestination(true);
        $this->bare = new MarkdownDestination(false);
        $this->frontMatter = new FrontMatter(new StructuredValues);
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        // An end of a line is a line feed, a carriage return, or both (2.1); as many bytes, so that places stay.
        $text = strtr($slice->text, ["\r\n" => " \n", "\r" => "\n"]);
        $body = 0;
        if (preg_match('~^(?:\xEF\xBB\xBF)?---[ \t]*\r?\n(.*?\n)(?:---|\.\.\.)[ '
            .'\t]*(?:\r?\n|$)~s', $text, $front, PREG_OFFSET_CAPTURE) === 1) {
            $this->frontMatter->read($slice, $front[1][0], $front[1][1], $found, $rules, $others);
            $body = strlen($front[0][0]);
        }
        [$plain, $markup, $automatic] = $this->layers(self::blank([substr($text, 0, $body)]).substr($text, $body));
        // Inline: from "](" to ")"; whether "![" or "[" opened it is found by walking back over balanced brackets.
        $inline = self::each(
            '~\]\([ \t\n]*+'.self::DESTINATION.'(?:[ \t\n]++'.self::TITLE.')?+'.self::SIZE.'[ \t\n]*+\)~S', $plain,
        );
        foreach ($this->innermost($plain, $inline) as [$m, $image]) {
            $this->destination(
                $slice, $m[1], $m[2], $image ? 'image' : 'link', $image ? Fetch::Always : Fetch::WhenFollowed, $found,
            );
        }
        foreach (self::each('~^'.self::CONTAINERS.'\[(?!\^)(?=[^\]]*\S)(?:[^\[\]\\\\]++|\\\\.)++\]:[ '
            .'\t]*+\n?[ \t]*+'.self::DESTINATION.'(?=(?:[ \t]*\n?[ \t]*(?<=\s)'.self::TITLE
                .')?[ \t]*$)~mS', $plain) as $m) {
            $this->destination($slice, $m[1], $m[2], 'reference definition', Fetch::OnCondition, $found);
        }
        foreach ($automatic as [$value, $offset]) {
            $found->add(
                $slice, $offset, strlen($value), $value, Names::Address, 'autolink', Fetch::WhenFollowed, $this->angled,
            );
        }
        $others->into($slice->blanked($markup), Notation::Html, $found, $rules->withoutTokens());
    }

    /**
     * @param  array{string|null, int}  $inAngles
     * @param  array{string|null, int}|null  $bare
     */
    private function destination(
        Slice $slice, array $inAngles, ?array $bare, string $role, Fetch $fetch, Collector $found,
    ): void {
        $angled = $inAngles[0] !== null;
        [$raw, $offset] = $angled ? $inAngles : ($bare ?? [null, -1]);
        if ($raw === null || $raw === '' || $raw[0] === '#') {
            return;
        }
        // Backslash escapes (2.4) and entities (2.5), in the order in which CommonMark reads them.
        $value = preg_replace_callback(
            '~\\\\([!-/:-@\[-`{-\~])|&(?:#[xX][0-9a-fA-F]{1,6}|#[0-9]{1,7}|[a-zA-Z][a-zA-Z0-9]*+);~',
            static fn (array $m): string => ($m[1] ?? '') !== '' ? $m[1] : html_entity_decode(
                $m[0], ENT_QUOTES | ENT_HTML5,
            ),
            $raw,
        ) ?? $raw;
        $found->add(
            $slice, $offset, strlen($raw), $value, Names::Address, $role, $fetch, $angled ? $this->angled : $this->bare,
        );
    }

    /**
     * Those that are links and images after all: a link holds no other link, and what an image's text holds is only
     * words (6.3, 6.4).
     *
     * @param  iterable<array<array-key, array{string|null, int}>>  $matches in the order of their ends
     * @return Generator<array{array<array-key, array{string|null, int}>, bool}> each with whether it is an image
     */
    private function innermost(string $plain, iterable $matches): Generator
    {
        $kept = [];
        $brackets = new Brackets($plain);
        foreach ($matches as $m) {
            $open = $brackets->opening($m[0][1]);
            if ($open === null) {
                continue;
            }
            $image = $open > 0 && $plain[$open - 1] === '!' && ($open < 2 || $plain[$open - 2] !== '\\');
            $holdsLink = false;
            for ($last = count($kept) - 1; $last >= 0 && $kept[$last][2] > $open; $last--) {
                $holdsLink = $holdsLink || ! $kept[$last][1];
                if ($image) {
                    array_pop($kept);
                }
            }
            if ($image || ! $holdsLink) {
                $kept[] = [$m, $image, $open];
            }
            if ($brackets->areClosed()) {
                yield from $kept;
                $kept = [];
            }
        }
        yield from $kept;
    }

    /**
     * All matches one by one, so that a long text does not fill the memory with them.
     *
     * @return Generator<array<array-key, array{string|null, int}>>
     */
    private static function each(string $pattern, string $text): Generator
    {
        $at = 0;
        while (preg_match($pattern, $text, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL, $at) === 1) {
            $at = $m[0][1] + max(1, strlen((string) $m[0][0]));
            yield $m;
        }
    }

    /**
     * The text in two layers of its own length: one without code and markup, for links, and one with nothing but
     * markup.
     *
     * @return array{string, string, list<array{string, int}>} and the autolinks with their places
     */
    private function layers(string $text): array
    {
        $text = CodeBlocks::blanked($text);
        preg_match_all(self::BLOCKS, $text, $blocks, PREG_OFFSET_CAPTURE);
        $tags = array_map(static fn (array $block): array => [$block[1], $block[0]], $blocks[0]);
        $plain = self::replaced(
            $text, array_map(static fn (array $tag): array => [$tag[0], self::blank([$tag[1]])], $tags),
        );
        $automatic = $parts = [];
        foreach (self::each(self::TIGHT, $plain) as $m) {
            if ($m[1][0] !== null || ($m[2][0] === null && $m[4][0] === null && $m[5][0] === null)) {
                continue;
            }
            // Something that is no space must stay, or the words before and behind would meet.
            $parts[] = [$m[0][1], preg_replace('~[^\n]~', "\x01", (string) $m[0][0]) ?? ''];
            if ($m[5][0] !== null) {
                $tags[] = [$m[5][1], $m[5][0]];
            } elseif ($m[4][0] !== null && preg_match('~^https?:~i', $m[4][0]) === 1) {
                $automatic[] = [$m[4][0], $m[4][1]];
            }
        }

        // No tag stands in a block, so places never meet.
        usort($tags, static fn (array $a, array $b): int => $a[0] <=> $b[0]);

        return [self::replaced($plain, $parts), self::replaced(self::blank([$text]), $tags), $automatic];
    }

    /** @param  list<array{int, string}>  $parts rising offsets, and what shall stand there instead */
    private static function replaced(string $text, array $parts): string
    {
        $out = '';
        $from = 0;
        foreach ($parts as [$offset, $by]) {
            $out .= substr($text, $from, $offset - $from).$by;
            $from = $offset + strlen($by);
        }

        return $out.substr($text, $from);
    }

    /**
     * @param  array<array-key, string>  $match
     * @return string as many spaces; lines stay lines
     */
    private static function blank(array $match): string
    {
        return preg_replace('~[^\n]~', ' ', $match[0]) ?? '';
    }
}
