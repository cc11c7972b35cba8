<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\JavaScript;

use Ylema\Reading\Collector;
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Slice;

/**
 * One walk through one script, from string to string. Only behind a plus sign, and in a template, what stands between
 * them is looked at: which strings are put together, and where something is put in that only a running script knows.
 *
 * @internal
 */
final class ScriptWalk
{
    private const STRINGS = '"([^"\\\\\n]*+(?:\\\\(?s:.)[^"\\\\\n]*+)*+)(?:"|(?=\n)|\\\\?\z)'
        .'|\'([^\'\\\\\n]*+(?:\\\\(?s:.)[^\'\\\\\n]*+)*+)(?:\'|(?=\n)|\\\\?\z)';

    private const EXPRESSION = '/(?![*/])(?:[^/\\\\\[\n]++|\\\\.|\[(?:[^\]\\\\\n]++|\\\\.)*+(?:\]|(?=\n)'
        .'|\z))++(?:/|(?=\n)|\z)';

    /**
     * Comments and regular expressions, up to the line's or the text's end where they have none; `<!--` begins a
     * comment of one line (B.1.1), and a regular expression, which may hold quotes, can stand only where a value can
     * begin.
     */
    private const SKIPPED = '(?://|<!--)[^\n]*+(?:\s*+'.self::EXPRESSION.')?+|/\*(?:[^*]++|\*(?!/))*+(?:\*/|\z)'
        .'|(?:(?<=[=(,:;!&|?{}\[]|return|typeof)|\A)\s*+'.self::EXPRESSION;

    /** Where nothing is put together: groups 1 and 2 the inside of a string, 3 the start of a template. */
    private const FAR = '~'.self::SKIPPED.'|'.self::STRINGS.'|(`)~S';

    /** Where something is, besides: 4 a mark that opens or closes, 5 a plus sign, 6 a name or number, 7 others. */
    private const NEAR = '~\G(?:\s++|'.self::SKIPPED.'|'.self::STRINGS
        .'|(`)|([(\[{}\])])|(\+)(?![+=])|((?:[\w$\x80-\xFF]|\?\.(?!\d)|\.)++)|(\+[+=]|.))~sS';

    /** A template's characters up to its end or to the next substitution. */
    private const TEMPLATE = '~((?:[^`\\\\$]++|\\\\(?s:.)|\$(?!\{))*+)(`|\$\{|\z)~AS';

    /** Deeper than this nobody puts texts into texts. */
    private const MOST_OPEN = 200;

    /** @var list<Joined|Between> what is open, outermost first */
    private array $open = [];

    private int $at = 0;

    public function __construct(
        private readonly Slice $slice,
        private readonly Collector $found,
        private readonly Pieces $pieces,
    ) {
    }

    public function run(): void
    {
        $text = $this->slice->text;
        $length = strlen($text);
        while ($this->at < $length) {
            $pattern = $this->open === [] ? self::FAR : self::NEAR;
            if (preg_match($pattern, $text, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL, $this->at) !== 1) {
                break;
            }
            $this->at = $m[0][1] + max(1, strlen((string) $m[0][0]));
            $whole = (string) $m[0][0];
            if (isset($m[1][0]) || isset($m[2][0])) {
                // A string that its line ends is an error, and none.
                if (strlen($whole) > 1 && $whole[0] === $whole[-1]) {
                    $this->string(substr($whole, 1, -1), $m[0][1] + 1, $whole[0]);
                }
            } elseif (isset($m[3][0])) {
                $this->template();
            } elseif (isset($m[4][0])) {
                $this->bracket($m[4][0]);
            } else {
                $this->between(isset($m[5][0]), isset($m[6][0]), isset($m[7][0]));
            }
            if (count($this->open) > self::MOST_OPEN) {
                $this->found->problem(
                    $this->slice->outer($this->at),
                    'This script puts texts into texts deeper than '.self::MOST_OPEN
                        .' levels; what follows was not read.',
                );

                return;
            }
        }
        $this->found->gaveUp($this->slice, $this->at);
        while ($this->open !== []) {
            $this->end();
        }
    }

    /** A plus sign, a name or number, or another sign between the strings of a text that is put together. */
    private function between(bool $isPlus, bool $isOperand, bool $isOther): void
    {
        $joined = $this->joined();
        if ($joined === null) {
            return;
        }
        if ($isPlus) {
            $joined->plus();
        } elseif ($isOther || ($isOperand && ! $joined->operand())) {
            $this->end();
        }
    }

    private function string(string $raw, int $start, string $quote): void
    {
        $joined = $this->joined();
        if ($joined !== null && $joined->wants()) {
            $joined->piece($raw, $start, $quote);

            return;
        }
        if ($joined !== null) {
            $this->end();
        }
        if ($this->isAdded()) {
            $this->open[] = $joined = new Joined;
            $joined->piece($raw, $start, $quote);
        } else {
            $this->pieces->one($raw, $start, $quote);
        }
    }

    /** Whether a plus sign is next, and one that adds. */
    private function isAdded(): bool
    {
        $at = $this->at + strspn($this->slice->text, " \t\r\n\f\v", $this->at);
        $mark = substr($this->slice->text, $at, 2);

        return $mark !== '' && $mark[0] === '+' && $mark !== '++' && $mark !== '+=';
    }

    /** From behind the backtick, or behind the brace of a substitution, up to the next substitution or the end. */
    private function template(bool $goesOn = false): void
    {
        $joined = $this->joined();
        if (! $goesOn && ($joined === null || ! $joined->wants())) {
            if ($joined !== null) {
                $this->end();
            }
            $this->open[] = $joined = new Joined;
        }
        preg_match(self::TEMPLATE, $this->slice->text, $m, 0, $this->at);
        PatternGaveUp::check();
        $joined?->piece($m[1] ?? '', $this->at, '`');
        $this->at += strlen($m[0] ?? '');
        $mark = $m[2] ?? '';
        if ($mark === '${') {
            $joined?->hole();
            $this->open[] = new Between(true);
        } elseif ($joined !== null) {
            $joined->isBroken = $mark === '';
        }
    }

    private function bracket(string $mark): void
    {
        if (str_contains('([{', $mark)) {
            $joined = $this->joined();
            if ($joined !== null && $joined->operand()) {
                $this->open[] = new Between(false);

                return;
            }
            if ($joined !== null) {
                $this->end();
            }
            $between = end($this->open);
            if ($between instanceof Between) {
                $between->depth++;
            }

            return;
        }
        while ($this->joined() !== null) {
            $this->end();
        }
        $between = end($this->open);
        if ($between instanceof Between && --$between->depth === 0) {
            array_pop($this->open);
            if ($between->isSubstitution) {
                $this->template(true);
            }
        }
    }

    private function joined(): ?Joined
    {
        $last = end($this->open);

        return $last instanceof Joined ? $last : null;
    }

    private function end(): void
    {
        $last = array_pop($this->open);
        if ($last instanceof Joined) {
            $this->pieces->joined($last);
        }
    }
}
