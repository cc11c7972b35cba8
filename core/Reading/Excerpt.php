<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * A stretch of text with some bytes of it marked; cut between words where there are any, else between characters, and
 * made valid UTF-8 for the eye.
 */
final readonly class Excerpt
{
    /** A longer run without a blank is no word, but data: it is shown as far as there is room. */
    private const WORD = 40;

    public function __construct(
        public string $lead,
        public string $marked,
        public string $tail,
        public bool $cutBefore,
        public bool $cutAfter,
    ) {
    }

    /** @param  int  $around how many bytes are shown on either side, at most */
    public static function of(string $text, int $start, int $length, int $around): self
    {
        $from = max(0, $start - $around);
        $end = $start + $length;
        // A continuation byte at an edge belongs to a character that is not shown.
        while ($from > 0 && $from < $start && (ord($text[$from]) & 0xC0) === 0x80) {
            $from++;
        }

        $lead = substr($text, $from, $start - $from);
        if ($from > 0 && ! ctype_space($text[$from - 1]) && $text[$from - 1] !== '>') {
            $lead = (string) preg_replace('~^[^\s<]{1,'.self::WORD.'}(?=[\s<])\s*~', '', $lead);
        }
        $tail = mb_strcut(substr($text, $end, $around + 4), 0, $around, 'UTF-8');
        $next = $text[$end + strlen($tail)] ?? ' ';
        if (! ctype_space($next) && $next !== '<') {
            $tail = (string) preg_replace('~(?<=[\s>])[^\s>]{1,'.self::WORD.'}$~D', '', $tail);
        }

        return new self(
            mb_scrub($lead, 'UTF-8'),
            mb_scrub(substr($text, $start, $length), 'UTF-8'),
            mb_scrub($tail, 'UTF-8'),
            $start - strlen($lead) > 0,
            $end + strlen($tail) < strlen($text),
        );
    }
}
