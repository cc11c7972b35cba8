<?php

declare(strict_types=1);

namespace Ylema\Retire;

/** Which of several copies should stay, and why: what would be lost with it weighs more than what it weighs. */
final class Keeper
{
    /**
     * @param  non-empty-list<Copy>  $copies
     * @return array{int, string} the item, and the reason in words
     */
    public static function of(array $copies): array
    {
        usort($copies, static fn (Copy $a, Copy $b): int => $b->rank() <=> $a->rank());
        $best = $copies[0];
        $next = $copies[1] ?? null;

        return [$best->item, $next === null ? 'It is the only one.' : self::why($best, $next)];
    }

    private static function why(Copy $best, Copy $next): string
    {
        return match (true) {
            $best->pixels > $next->pixels => 'It has the most pixels.',
            $best->isCode && ! $next->isCode => 'The site’s own code names it.',
            $best->uses > $next->uses => 'Most places show it already.',
            $best->words > $next->words => 'It has the better words.',
            $best->hasRow && ! $next->hasRow => 'The site’s own list of media has it.',
            $best->modified < $next->modified => 'It was there first.',
            default => 'Its path is the shortest.',
        };
    }
}
