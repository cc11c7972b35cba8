<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Markdown;

use Ylema\Reading\PatternGaveUp;

/**
 * The blocks of a Markdown text, also in quotes and lists: line by line, as CommonMark's first phase does (0.31.2,
 * appendix "A parsing strategy"). Code, fenced or indented, is blanked out; markup is told from words; and between the
 * stretches of words that inline rules take each by itself, the end of the line is another sign. Every byte stays where
 * it is.
 *
 * @internal
 */
final class Blocks
{
    /** Stands for the end of a line behind which another stretch of words begins. */
    public const BOUNDARY = "\x1E";

    /** A line of words as nearly all are: it begins with a letter, and goes on with what the line before began. */
    private const WORDS = '~^[A-Za-z\x80-\xFF]~';

    /** More quotes and lists in each other than this are damage, and each line would have to look for all of them. */
    private const DEEPEST = 100;

    /** What interrupts a paragraph (5.1 and 4.8). */
    private const BEGINS = '~\G(?:>|\#{1,6}(?:[ \t]|$)|`{3}|\~{3}|[-+*][ \t]+\S|1[.)][ \t]+\S|<(?:[!?]'
        .'|/?(?:script|pre|style|textarea)\b))~iS';

    private const BREAK = '~\G(?:(?:\*[ \t]*+){3,}|(?:-[ \t]*+){3,}|(?:_[ \t]*+){3,})$~D';

    /** Markup that a blank line does not end (4.6, kinds 1 to 5) → what ends it. */
    private const MARKUP = [
        '~\G<(?:script|pre|style|textarea)(?=[\s>]|$)~i' => '~</(?:script|pre|style|textarea)>~i',
        '~\G<!--~' => '~-->~',
        '~\G<\?~' => '~\?>~',
        '~\G<!\[CDATA\[~' => '~\]\]>~',
        '~\G<![a-z]~i' => '~>~',
    ];

    /** Markup that a blank line ends (4.6, kind 6). */
    private const BLOCK =
        '~\G</?(?:address|article|aside|base(?:font)?|blockquote|body|caption|center|col(?:group)?|dd|'
        .'details|dialog|dir|div|dl|dt|fieldset|figcaption|figure|footer|form|frame(?:set)?|h[1-6r]|head(?:er)?|html|'
        .'iframe|legend|li|link|main|menu(?:item)?|nav|noframes|[ou]l|optgroup|option|p|param|search|section|summary|'
        .'table|tbody|td|tfoot|th|thead|title|tr|track)(?=[ \t>]|/>|$)~iDS';

    /** So does it end a line of nothing but one tag, which cannot interrupt a paragraph (4.6, kind 7). */
    private const TAG = '~\G<(?:[a-z][a-z0-9-]*+(?:[ \t]++[a-z_:][\w.:-]*+'
        .'(?:[ \t]*+=[ \t]*+(?:[^\s"\'=<>`]++|\'[^\']*+\'|"[^"]*+"))?+)*+[ \t]*+/?'
        .'|/[a-z][a-z0-9-]*+[ \t]*+)>[ \t]*$~iDS';

    /** Definitions and nothing else, roughly (4.7). */
    private const DEFINITIONS = '~^(?:[ \t>]*+\[[^\[\]]++\]:[ \t]*+\n?[ \t]*+\S++(?:\s++(?:"[^"]*+"|\'[^\']*+\''
        .'|\([^()]*+\)))?+[ \t]*+(?:\n|$))++$~D';

    /** More of a paragraph is not looked at for definitions. */
    private const LONGEST = 4096;

    private const BLANK = '~\G[ \t]*$~D';

    /** @var list<int> what the line stands in: 0 a quote, else the column at which a list item's content begins */
    private array $containers = [];

    /** @var array{string, int, int}|null the open fence: its character, its length, how many containers hold it */
    private ?array $fence = null;

    /** What ends the markup that is open. */
    private ?string $markup = null;

    private bool $inParagraph = false;

    /** The lines of a paragraph that begins like a definition. */
    private ?string $beginning = null;

    /** Whether the line before began an item and left it empty; a blank line ends it then (5.2). */
    private bool $isEmptyItem = false;

    private string $line = '';

    private int $at = 0;

    /** Of `at`, with tabs to the next multiple of four (2.2). */
    private int $column = 0;

    /** Whether the line is one of markup. */
    private bool $isMarkup = false;

    /** Whether the words of the line go on with those of the line before. */
    private bool $goesOn = false;

    /**
     * @param  string  $text with nothing but line feeds for ends of lines
     * @return array{string, string} of the length of the text: its words, without code and markup, and its markup
     */
    public static function of(string $text): array
    {
        $blocks = new self();
        $words = $markup = '';
        foreach (explode("\n", $text) as $n => $line) {
            if ($n > 0) {
                $markup .= "\n";
            }
            $length = strlen($line);
            if ($blocks->inParagraph && $blocks->containers === [] && preg_match(self::WORDS, $line) === 1) {
                // Nothing that begins a block begins with a letter.
                $words .= ($n > 0 ? "\n" : '').$line;
                $markup .= str_repeat(' ', $length);

                continue;
            }
            $from = $blocks->code($line);
            PatternGaveUp::check();
            $words .= $n === 0 ? '' : ($blocks->goesOn ? "\n" : self::BOUNDARY);
            if ($from !== null) {
                $words .= substr($line, 0, $from).str_repeat(' ', $length - $from);
                $markup .= str_repeat(' ', $length);
            } elseif ($blocks->isMarkup) {
                $words .= str_repeat(' ', $length);
                $markup .= str_repeat(' ', min($length, $blocks->at)).substr($line, $blocks->at);
            } else {
                $words .= $line;
                $markup .= str_repeat(' ', $length);
            }
        }

        return [$words, $markup];
    }

    private function __construct()
    {
    }

    /** @return int|null from which byte on the line is code; null where it is none */
    private function code(string $line): ?int
    {
        $this->line = $line;
        $this->at = $this->column = 0;
        $this->isMarkup = $this->goesOn = false;
        $held = $this->held();
        $isBlank = $this->isBlank();
        if ($isBlank && $this->isEmptyItem && $held === count($this->containers)) {
            array_pop($this->containers);
        }
        $this->isEmptyItem = false;
        if ($held < count($this->containers) && $this->leaves($held, $isBlank)) {
            $this->containers = array_slice($this->containers, 0, $held);
            $this->inParagraph = false;
            $this->markup = null;
        }
        if ($this->fence !== null && $this->fence[2] > count($this->containers)) {
            $this->fence = null;
        }
        if ($this->fence !== null) {
            return $this->inFence();
        }
        if ($this->markup !== null) {
            $this->isMarkup = true;
            $this->markup = preg_match($this->markup, $line, $m, 0, $this->at) === 1 ? null : $this->markup;

            return null;
        }

        return $this->begins();
    }

    /** Goes on behind the marks of what the line before stood in, as far as this line has them. */
    private function held(): int
    {
        foreach ($this->containers as $n => $container) {
            $indent = $this->indent($container === 0 ? 4 : $container - $this->column);
            if ($container === 0) {
                if ($indent > 3 || ($this->line[$this->at + strspn($this->line, " \t", $this->at)] ?? '') !== '>') {
                    return $n;
                }
                $this->quote();
            } elseif ($this->column + $indent >= $container) {
                $this->skip($container - $this->column);
            } elseif (! $this->isBlank()) {
                return $n;
            }
        }

        return count($this->containers);
    }

    /** Whether a line without all the marks ends what they stand for; a paragraph may go on without them (5.1). */
    private function leaves(int $held, bool $isBlank): bool
    {
        if ($isBlank) {
            return in_array(0, array_slice($this->containers, $held), true);
        }

        return ! $this->inParagraph || $this->fence !== null || $this->startsBlock();
    }

    private function startsBlock(): bool
    {
        if ($this->indent() > 3) {
            return false;
        }
        $at = $this->at + strspn($this->line, " \t", $this->at);

        return preg_match(self::BEGINS, $this->line, $m, 0, $at) === 1
            || preg_match(self::BLOCK, $this->line, $m, 0, $at) === 1
            || preg_match(self::BREAK, $this->line, $m, 0, $at) === 1;
    }

    /** What a line begins that nothing before has claimed. */
    private function begins(): ?int
    {
        while (true) {
            $indent = $this->indent();
            if ($this->isBlank()) {
                $this->inParagraph = false;

                return null;
            }
            if ($indent > 3) {
                // An indented line cannot interrupt a paragraph (4.4).
                $this->goesOn = $this->inParagraph;

                return $this->inParagraph ? null : $this->at;
            }
            $at = $this->at + strspn($this->line, " \t", $this->at);
            if (count($this->containers) >= self::DEEPEST) {
                return $this->leaf($at);
            }
            if ($this->line[$at] === '>') {
                $this->quote();
                $this->containers[] = 0;
                $this->inParagraph = false;
            } elseif (! $this->item($at)) {
                return $this->leaf($at);
            }
        }
    }

    /** A list item (5.2): its mark and up to four blanks behind it say where its content begins. */
    private function item(int $at): bool
    {
        if (
            preg_match('~\G(?:[-+*]|(\d{1,9})[.)])(?=[ \t]|$)~D', $this->line, $m, 0, $at) !== 1
            || preg_match(self::BREAK, $this->line, $_, 0, $at) === 1
        ) {
            return false;
        }
        $isEmpty = trim(substr($this->line, $at + strlen($m[0])), " \t") === '';
        if ($this->inParagraph && ($isEmpty || (int) ($m[1] ?? '1') !== 1)) {
            return false;
        }
        $this->skip($this->indent());
        $this->at += strlen($m[0]);
        $this->column += strlen($m[0]);
        $blanks = $this->indent();
        $this->skip($isEmpty ? min(1, $blanks) : ($blanks > 4 ? 1 : $blanks));
        $this->containers[] = $isEmpty && $blanks === 0 ? $this->column + 1 : $this->column;
        $this->isEmptyItem = $isEmpty;
        $this->inParagraph = false;

        return true;
    }

    private function leaf(int $at): ?int
    {
        $inParagraph = $this->inParagraph;
        if ($inParagraph && $this->isUnderline($at)) {
            // Of a paragraph of nothing but definitions nothing is left to be a heading (4.3).
            $this->inParagraph = $this->beginning !== null
                && preg_match(self::DEFINITIONS, $this->beginning) === 1
                && $this->line[$at] === '=';

            return null;
        }
        if (preg_match('~\G(?:(`{3,})[^`]*+|(\~{3,}).*+)$~D', $this->line, $m, 0, $at) === 1) {
            $mark = $m[2] ?? $m[1];
            $this->fence = [$mark[0], strlen($mark), count($this->containers)];
            $this->inParagraph = false;

            return $at;
        }
        foreach (self::MARKUP as $begin => $end) {
            if (preg_match($begin, $this->line, $m, 0, $at) === 1) {
                $this->markup = preg_match($end, $this->line, $m, 0, $at + strlen($m[0])) === 1 ? null : $end;
                $this->inParagraph = false;
                $this->isMarkup = true;

                return null;
            }
        }
        if (
            preg_match(self::BLOCK, $this->line, $m, 0, $at) === 1
            || (! $this->inParagraph && preg_match(self::TAG, $this->line, $m, 0, $at) === 1)
        ) {
            $this->markup = self::BLANK;
            $this->inParagraph = false;
            $this->isMarkup = true;

            return null;
        }
        // A heading or a break is all there is of it, as is what underlines one (4.3); anything else goes on.
        $this->inParagraph = preg_match('~\G\#{1,6}(?:[ \t]|$)~D', $this->line, $m, 0, $at) !== 1
            && preg_match(self::BREAK, $this->line, $m, 0, $at) !== 1;
        $this->goesOn = $inParagraph && $this->inParagraph;
        $isDefinition = $this->inParagraph && ! $inParagraph && $this->line[$at] === '[';
        $goesOn = $this->goesOn && strlen($this->beginning ?? '') < self::LONGEST;
        $this->beginning = match (true) {
            $isDefinition => $this->line,
            $goesOn && $this->beginning !== null => "$this->beginning\n$this->line",
            default => null,
        };

        return null;
    }

    private function isUnderline(int $at): bool
    {
        return preg_match('~\G(?:=+|-+)[ \t]*$~D', $this->line, $m, 0, $at) === 1;
    }

    private function inFence(): int
    {
        [$mark, $length] = $this->fence ?? ['`', 3];
        $from = $this->at;
        $at = $from + strspn($this->line, " \t", $from);
        if (
            $this->indent() <= 3
            && strspn($this->line, $mark, $at) >= $length
            && trim(substr($this->line, $at + strspn($this->line, $mark, $at)), " \t") === ''
        ) {
            $this->fence = null;
        }

        return $from;
    }

    private function quote(): void
    {
        $this->skip($this->indent());
        $this->at++;
        $this->column++;
        if ($this->indent() > 0) {
            $this->skip(1);
        }
    }

    private function isBlank(): bool
    {
        return $this->at + strspn($this->line, " \t", $this->at) >= strlen($this->line);
    }

    /**
     * @param  int  $enough columns; whether there are more makes no difference, so it is not looked at
     * @return int how many columns of blanks stand here
     */
    private function indent(int $enough = 5): int
    {
        $column = $this->column;
        for ($at = $this->at; $at < strlen($this->line) && $column - $this->column < $enough; $at++) {
            if ($this->line[$at] === ' ') {
                $column++;
            } elseif ($this->line[$at] === "\t") {
                $column += 4 - $column % 4;
            } else {
                break;
            }
        }

        return $column - $this->column;
    }

    /** Goes on by some columns of blanks; of a tab, only a part may be meant. */
    private function skip(int $columns): void
    {
        $to = $this->column + $columns;
        while ($this->column < $to) {
            if ($this->line[$this->at] === "\t") {
                $behind = $this->column + 4 - $this->column % 4;
                $this->column = min($to, $behind);
                $this->at += $behind <= $to ? 1 : 0;
            } else {
                $this->column++;
                $this->at++;
            }
        }
    }
}
