<?php

declare(strict_types=1);

namespace Ylema\Reading;

/** A stretch of text with some bytes of it marked; cut between characters, and made valid UTF-8 for the eye. */
final readonly class Excerpt
{
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

        return new self(
            mb_scrub(substr($text, $from, $start - $from), 'UTF-8'),
            mb_scrub(substr($text, $start, $length), 'UTF-8'),
            mb_scrub(mb_strcut(substr($text, $end, $around + 4), 0, $around, 'UTF-8'), 'UTF-8'),
            $from > 0,
            $end + $around < strlen($text),
        );
    }
}
