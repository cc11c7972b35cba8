<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Markdown;

/**
 * Where code stands in Markdown, fenced or indented, also in quotes and lists: line by line, as CommonMark's first
 * phase does (0.31.2, appendix "A parsing strategy"). What is code is blanked out; every other byte stays where it is.
 *
 * @internal
 */
final class CodeBlocks
{
    /** Without any of this at the beginning of a line there is no code; most texts have none. */
    private const ANY = '~^[ \t>0-9.)*+-]*+(?:(?<=[ \t]{4})|(?<=\t)|`{3}|\~{3})~mS';

    /** More quotes and lists in each other than this are damage, and each line would have to look for all of them. */
    private const DEEPEST = 100;

    /** What interrupts a paragraph (5.1 and 4.8). */
    private const BEGINS = '~\G(?:>|\#{1,6}(?:[ \t]|$)|`{3}|\~{3}|[-+*][ \t]+\S|1[.)][ \t]+\S|<[a-z/!?])~iS';

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

    private const BLANK = '~\G[ \t]*$~D';

    /** @var list<int> what the line stands in: 0 a quote, else the column at which a list item's content begins */
    private array $containers = [];

    /** @var array{string, int, int}|null the open fence: its character, its length, how many containers hold it */
    private ?array $fence = null;

    /** What ends the markup that is open. */
    private ?string $markup = null;

    private bool $inParagraph = false;

    /** Whether the line before began an item and left it empty; a blank line ends it then (5.2). */
    private bool $isEmptyItem = false;

    private string $line = '';

    private int $at = 0;

    /** Of `at`, with tabs to the next multiple of four (2.2). */
    private int $column = 0;

    /** @param  string  $text with nothing but line feeds for ends of lines */
    public static function blanked(string $text): string
    {
        if (preg_match(self::ANY, $text) !== 1) {
            return $text;
        }
        $blocks = new self();
        $out = '';
        foreach (explode("\n", $text) as $n => $line) {
            $from = $blocks->code($line);
            $out .= ($n === 0 ? '' : "\n")
                .($from === null ? $line : substr($line, 0, $from).str_repeat(' ', strlen($line) - $from));
        }

        return $out;
    }

    private function __construct()
    {
    }

    /** @return int|null from which byte on the line is code; null where it is none */
    private function code(string $line): ?int
    {
        $this->line = $line;
        $this->at = $this->column = 0;
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

                return null;
            }
        }
        if (
            preg_match(self::BLOCK, $this->line, $m, 0, $at) === 1
            || (! $this->inParagraph && preg_match(self::TAG, $this->line, $m, 0, $at) === 1)
        ) {
            $this->markup = self::BLANK;
            $this->inParagraph = false;

            return null;
        }
        // A heading or a break is all there is of it; anything else goes on.
        $this->inParagraph = preg_match('~\G\#{1,6}(?:[ \t]|$)~D', $this->line, $m, 0, $at) !== 1
            && preg_match(self::BREAK, $this->line, $m, 0, $at) !== 1;

        return null;
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
