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
use Ylema\Reading\PatternGaveUp;
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

    private const TITLE = '(?:"(?:[^"\\\\\x1E]++|\\\\.)*+"|\'(?:[^\'\\\\\x1E]++|\\\\.)*+\''
        .'|\((?:[^()\\\\\x1E]++|\\\\.)*+\))';

    /** A definition begins a stretch of words, or follows another (4.7); its title may be on a line of its own. */
    private const DEFINITION = '~(?:\A|(?<=\x1E)|\G(?<!\A)\n)'.self::CONTAINERS
        .'\[(?!\^)(?=[^\]]*\S)(?:[^\[\]\\\\\x1E]++|\\\\.)++\]:[ \t]*+\n?[ \t]*+'.self::DESTINATION
        .'(?:[ \t]*+\n?[ \t]*+(?<=\s)'.self::TITLE.'(?=[ \t]*+(?:[\n\x1E]|\z)))?+[ \t]*+(?=[\n\x1E]|\z)~S';

    private const INLINE = '~\]\([ \t]*+(?:\n[ \t]*+)?+'.self::DESTINATION.'(?:[ \t\n]++'.self::TITLE.')?+'
        .self::SIZE.'[ \t\n]*+\)~S';

    /** The size that several programs take behind an address: `=300x200`, `=300x`, `=x200`, `=50%`. */
    private const SIZE = '(?:[ \t\n]++=(?:\d++%?(?:x\d*+%?)?|x\d++%?)(?:[ \t\n]++'.self::TITLE.')?)?+';

    /** What a line of a quote or a list begins with (5.1, 5.2). */
    private const CONTAINERS = '(?:[ \t]*+(?:>|[-+*](?=[ \t])|\d{1,9}[.)](?=[ \t]))[ \t]?+)*+ {0,3}';

    /**
     * What binds tighter than links, in the order of its beginning (6.1, 6.5, 6.6): groups 1 an escape or a
     * destination in angle brackets, 2 a code span, 4 an autolink's address, 5 a tag, comment or the like; else a run
     * of backticks that opens nothing.
     */
    private const TIGHT = '~(\\\\[!-/:-@\[-`{-\~]'
        .'|\](?:\([ \t]*+(?:\n[ \t]*+)?+'.self::ANGLED.'(?:[ \t\n]++'.self::TITLE.')?+'
        .'[ \t\n]*+(?=\))|:[ \t]*+\n?[ \t]*+'.self::ANGLED.'(?=[ \t\n\x1E]|\z)))|((?<!`)'
        .'(`++)(?!`)[^\x1E]*?(?<!`)\3(?!`))'
        .'|<([a-z][a-z0-9+.-]{1,31}:[^\s<>\x00-\x1F]*+)>'
        .'|(<[a-z][a-z0-9-]*+(?:\s++[a-z_:][a-z0-9_.:-]*+(?:\s*+=\s*+(?:[^\s"\'=<>`]++|\'[^\'\x1E]*+\''
        .'|"[^"\x1E]*+"))?+)*+\s*+'
        .'/?+>|</[a-z][a-z0-9-]*+\s*+>|<!--(?:-?>|[^\x1E]*?-->)|<\?[^\x1E]*?\?>|<![a-z][^>\x1E]*+>'
        .'|<!\[CDATA\[[^\x1E]*?\]\]>)|`++~isS';

    private const ANGLED = '<(?:[^<>\\\\\n\x1E]++|\\\\.)*+>';

    private FrontMatter $frontMatter;

    private Embedded $embedded;

    private MarkdownDestination $angled;

    private MarkdownDestination $bare;

    public function __construct()
    {
        $this->angled = new MarkdownDestination(true);
        $this->bare = new MarkdownDestination(false);
        $this->frontMatter = new FrontMatter(new StructuredValues);
        $this->embedded = new Embedded;
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        // An end of a line is a line feed, a carriage return, or both (2.1); as many bytes, so that places stay.
        $text = strtr($slice->text, ["\r\n" => " \n", "\r" => "\n", Blocks::BOUNDARY => ' ']);
        $body = $this->frontMatter->read($slice, $text, $found, $rules, $others);
        [$plain, $markup, $automatic, $open] = $this->layers(
            $body === 0 ? $text : self::blank([substr($text, 0, $body)]).substr($text, $body),
        );
        $components = $this->embedded->read($slice, $open, $found, $rules, $others);
        // Inline: from "](" to ")"; whether "![" or "[" opened it is found by walking back over balanced brackets.
        $words = [];
        foreach ($this->innermost($plain, self::each(self::INLINE, $plain, 2)) as [$m, $image, $from]) {
            if ($image) {
                $words[] = [$from, $m[0][1]];
            }
            $this->destination(
                $slice, $m[1], $m[2], $image ? 'image' : 'link', $image ? Fetch::Always : Fetch::WhenFollowed, $found,
            );
        }
        // A definition begins a stretch of words, or follows another (4.7).
        foreach (self::each(self::DEFINITION, $plain) as $m) {
            $this->destination($slice, $m[1], $m[2], 'reference definition', Fetch::OnCondition, $found);
        }
        // What an image's text holds is only words (6.4).
        foreach (self::outside($automatic, $words) as [$value, $offset]) {
            $found->add(
                $slice, $offset, strlen($value), $value, Names::Address, 'autolink', Fetch::WhenFollowed, $this->angled,
            );
        }
        $blanks = [];
        foreach ($components as [$from, $length]) {
            $blanks[] = [$from, str_repeat(' ', $length)];
        }
        $markup = self::replaced($markup, $blanks);
        foreach ($words as [$from, $to]) {
            if (trim(substr($markup, $from, $to - $from)) !== '') {
                $markup = substr_replace($markup, str_repeat(' ', $to - $from), $from, $to - $from);
            }
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
        ) ?? throw new PatternGaveUp(preg_last_error_msg());
        $found->add(
            $slice, $offset, strlen($raw), $value, Names::Address, $role, $fetch, $angled ? $this->angled : $this->bare,
        );
    }

    /**
     * Those that are links and images after all: a link holds no other link, and what an image's text holds is only
     * words (6.3, 6.4).
     *
     * @param  iterable<array<array-key, array{string|null, int}>>  $matches in the order of their ends
     * @return Generator<array{array<array-key, array{string|null, int}>, bool, int}> each with whether it is an
     *      image, and where it opens
     */
    private function innermost(string $plain, iterable $matches): Generator
    {
        $kept = [];
        $end = 0;
        $brackets = new Brackets($plain);
        foreach ($matches as $m) {
            // One that begins in the address of another is none.
            $open = $m[0][1] < $end ? null : $brackets->opening($m[0][1]);
            if ($open === null) {
                continue;
            }
            $end = $m[0][1] + strlen((string) $m[0][0]);
            $brackets->skip($end);
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
     * @param  list<array{string, int}>  $places value and offset, rising
     * @param  list<array{int, int}>  $stretches from and to
     * @return iterable<array{string, int}>
     */
    private static function outside(array $places, array $stretches): iterable
    {
        usort($stretches, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
        $n = $to = 0;
        foreach ($places as [$value, $offset]) {
            for (; isset($stretches[$n]) && $stretches[$n][0] < $offset; $n++) {
                $to = max($to, $stretches[$n][1]);
            }
            if ($offset >= $to) {
                yield [$value, $offset];
            }
        }
    }

    /**
     * All matches one by one, so that a long text does not fill the memory with them.
     *
     * @param  int  $step bytes from one to where the next may begin; 0 for behind it
     * @return Generator<array<array-key, array{string|null, int}>>
     */
    private static function each(string $pattern, string $text, int $step = 0): Generator
    {
        $at = 0;
        while (preg_match($pattern, $text, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL, $at) === 1) {
            $at = $m[0][1] + max(1, $step === 0 ? strlen((string) $m[0][0]) : $step);
            yield $m;
        }
        PatternGaveUp::check();
    }

    /**
     * The text in layers of its own length: its words without code and markup, for links; nothing but its markup; and
     * all but code, for what programs put in.
     *
     * @return array{string, string, list<array{string, int}>, string} the third are the autolinks with their places
     */
    private function layers(string $text): array
    {
        [$plain, $markup] = Blocks::of($text);
        $automatic = $parts = $tags = $spans = [];
        $at = $seen = 0;
        $isOpen = false;
        while (preg_match(self::TIGHT, $plain, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL, $at) === 1) {
            $between = substr($plain, $seen, $m[0][1] - $seen);
            $boundary = strrpos($between, Blocks::BOUNDARY);
            $isOpen = strpos($between, '[', (int) $boundary) !== false || ($isOpen && $boundary === false);
            $seen = $m[0][1];
            // What looks like the address of a link is none where no bracket is open.
            $at = ($m[1][0][0] ?? '') === ']' && ! $isOpen ? $seen + 1 : $seen + strlen((string) $m[0][0]);
            if ($m[1][0] !== null || ($m[2][0] === null && $m[4][0] === null && $m[5][0] === null)) {
                continue;
            }
            // Something that is no space must stay, or the words before and behind would meet.
            $part = preg_replace('~[^\n]~', "\x01", (string) $m[0][0]) ?? '';
            $parts[] = [$m[0][1], $part];
            if ($m[5][0] !== null) {
                $tags[] = [$m[5][1], $m[5][0]];
            } elseif ($m[4][0] !== null && preg_match('~^https?:~i', $m[4][0]) === 1) {
                $automatic[] = [$m[4][0], $m[4][1]];
            } elseif ($m[2][0] !== null) {
                $spans[] = [$m[0][1], $part];
            }
        }
        PatternGaveUp::check();
        $words = self::replaced($plain, $spans);
        // Each line is one of both, and blank in the other.
        $open = preg_match('~\S~', $markup) === 1 ? self::overlaid($words, $markup) : $words;

        return [self::replaced($plain, $parts), self::replaced($markup, $tags), $automatic, $open];
    }

    private static function overlaid(string $words, string $markup): string
    {
        $out = '';
        foreach (explode("\n", $markup) as $line) {
            $at = strlen($out);
            $out .= trim($line) === '' ? substr($words, $at, strlen($line)) : $line;
            $out .= substr($words, strlen($out), 1);
        }

        return $out;
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
