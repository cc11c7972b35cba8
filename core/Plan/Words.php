<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** The little grammar that sentences about plans need. */
final class Words
{
    /** `3 files`, `1 file`, `12,345 files`. */
    public static function many(int $count, string $one, ?string $more = null): string
    {
        return number_format($count).' '.($count === 1 ? $one : $more ?? $one.'s');
    }
}
