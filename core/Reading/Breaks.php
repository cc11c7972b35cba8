<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * Where decoding made offsets part: pairs of an offset in the decoded text and the offset in the source that it goes on
 * at. Between two pairs both run in step. Eight bytes a pair, since a large field may have hundreds of thousands.
 *
 * @internal
 */
final readonly class Breaks
{
    private const PAIR = 8;

    /** @param  string  $packed pairs of 32-bit numbers, rising */
    public function __construct(private string $packed)
    {
    }

    /**
     * @param  int  $start what is added to an offset before the first pair
     * @return int the offset in the source of an offset in the decoded text
     */
    public function source(int $offset, int $start): int
    {
        // Binary search for the last pair at or before the offset.
        $low = 0;
        $high = intdiv(strlen($this->packed), self::PAIR);
        while ($low < $high) {
            $middle = ($low + $high) >> 1;
            if ($this->pair($middle)[0] <= $offset) {
                $low = $middle + 1;
            } else {
                $high = $middle;
            }
        }
        if ($low === 0) {
            return $start + $offset;
        }
        [$decoded, $source] = $this->pair($low - 1);

        return $source + $offset - $decoded;
    }

    /** @return array{int, int} */
    private function pair(int $index): array
    {
        /** @var array{1: int, 2: int} $pair */
        $pair = unpack('V2', $this->packed, $index * self::PAIR);

        return [$pair[1], $pair[2]];
    }
}
