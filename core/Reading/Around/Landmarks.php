<?php

declare(strict_types=1);

namespace Ylema\Reading\Around;

/**
 * Offsets of start and end tags of one kind, asked for the last one before a place. Places come in rising order, nearly
 * always, so the answer is looked for from the last one on.
 *
 * @internal
 */
final class Landmarks
{
    private int $next = 0;

    /** @param  list<int>  $offsets rising; an end tag's is -offset - 1 */
    public function __construct(private readonly array $offsets)
    {
    }

    /**
     * @return int the offset of the last start tag before a place; negative where an end tag came after it, or there is
     *       none
     */
    public function lastBefore(int $place): int
    {
        while ($this->next > 0 && $this->offset($this->next - 1) >= $place) {
            $this->next--;
        }
        while ($this->offset($this->next) < $place) {
            $this->next++;
        }

        return $this->offsets[$this->next - 1] ?? -1;
    }

    private function offset(int $index): int
    {
        $mark = $this->offsets[$index] ?? PHP_INT_MAX;

        return $mark < 0 ? -$mark - 1 : $mark;
    }
}
