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

    /**
     * @param  list<int>  $offsets rising
     * @param  array<int, true>  $ends those of end tags
     */
    public function __construct(private readonly array $offsets, private readonly array $ends)
    {
    }

    /**
     * @return int the offset of the last start tag before a place; negative where an end tag came after it, or there is
     *       none
     */
    public function lastBefore(int $place): int
    {
        $next = $this->next;
        while ($next > 0 && $this->offsets[$next - 1] >= $place) {
            $next--;
        }
        while (($this->offsets[$next] ?? PHP_INT_MAX) < $place) {
            $next++;
        }
        $this->next = $next;
        $last = $this->offsets[$next - 1] ?? -1;

        return isset($this->ends[$last]) ? -1 : $last;
    }
}
