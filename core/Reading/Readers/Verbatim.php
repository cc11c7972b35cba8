<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Notation;
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Readers\Markdown\Blocks;

/**
 * The stretches of a text that show what somebody could write, and mean nothing: code and preformatted text, comments,
 * a Markdown text's code spans and fences, and what a backslash stands before.
 */
final readonly class Verbatim
{
    /** Elements that show a text as it was written (HTML Standard, 4.4.3, 4.5.15 to 4.5.18, 16.2). */
    private const ELEMENTS = 'code|pre|samp|kbd|xmp|listing|plaintext';

    private const TAG = '~<(?:!--|(?<close>/?)(?<name>'.self::ELEMENTS.')(?=[\s/>])[^<>]*+>)'
        .'|&lt;!--~i';

    /** A code span of CommonMark (0.31.2, 6.1), in one stretch of words. */
    private const SPAN = '~(?<![`\\\\])(?<ticks>`++)(?:[^`\x1E]++|(?!(?<!`)\k<ticks>(?!`))`++)*+\k<ticks>(?!`)~';

    /** @var list<array{int, int}> offset and end, in their order, none in another */
    private array $stretches;

    public function __construct(private string $text, Notation $notation)
    {
        $stretches = [];
        if ($notation === Notation::Markdown) {
            $plain = strtr($text, ["\r\n" => " \n", "\r" => "\n", Blocks::BOUNDARY => ' ']);
            [$words, $markup] = Blocks::of($plain);
            preg_match_all(self::SPAN, $words, $spans, PREG_OFFSET_CAPTURE);
            PatternGaveUp::check();
            // What is in neither is code.
            preg_match_all('~[^\0]++~', ($plain ^ $words) & ($plain ^ $markup), $code, PREG_OFFSET_CAPTURE);
            foreach ([...$spans[0], ...$code[0]] as [$shown, $offset]) {
                $stretches[] = [$offset - 1, $offset + strlen($shown)];
            }
        }
        foreach ($this->elements() as $stretch) {
            $stretches[] = $stretch;
        }
        sort($stretches);
        $apart = [];
        foreach ($stretches as [$from, $to]) {
            $last = array_pop($apart) ?? [$from, $from];
            array_push($apart, ...$from < $last[1] ? [[$last[0], max($to, $last[1])]] : [$last, [$from, $to]]);
        }
        $this->stretches = $apart;
    }

    /** Whether what stands here, from its first byte on, is only shown. */
    public function holds(int $offset): bool
    {
        for ($at = $offset, $slashes = 0; $at > 0 && $this->text[$at - 1] === '\\'; $at--) {
            $slashes++;
        }
        if ($slashes % 2 === 1) {
            return true;
        }
        [$low, $high] = [0, count($this->stretches)];
        while ($low < $high) {
            $middle = ($low + $high) >> 1;
            // A builder's own comment is no comment to the builder, so that what begins right here is not meant.
            $this->stretches[$middle][0] < $offset ? $low = $middle + 1 : $high = $middle;
        }

        return $low > 0 && $offset < $this->stretches[$low - 1][1];
    }

    /**
     * An element that nothing closes shows nothing of this, for else a slip would hide the rest of the text.
     *
     * @return iterable<array{int, int}>
     */
    private function elements(): iterable
    {
        preg_match_all(self::TAG, $this->text, $tags, PREG_SET_ORDER | PREG_OFFSET_CAPTURE);
        PatternGaveUp::check();
        $open = [];
        $past = 0;
        $isClosed = ['<!--' => true, '&lt;!--' => true];
        foreach ($tags as $tag) {
            [$text, $offset] = $tag[0];
            if ($offset < $past) {
                continue;
            }
            $name = strtolower($tag['name'][0] ?? '');
            if ($name === '') {
                $end = $text === '<!--' ? '-->' : '--&gt;';
                $to = $isClosed[strtolower($text)] ? stripos($this->text, $end, $offset + strlen($text)) : false;
                $isClosed[strtolower($text)] = $to !== false;
                if ($to !== false) {
                    $past = $to + strlen($end);
                    yield [$offset, $past];
                }
            } elseif (($tag['close'][0] ?? '') === '') {
                $open[$name][] = $offset;
            } elseif (($open[$name] ?? []) !== []) {
                $from = array_pop($open[$name]);
                // Of one in another of its kind, the outer one holds both.
                if ($open[$name] === []) {
                    yield [$from, $offset];
                }
            }
        }
    }
}
