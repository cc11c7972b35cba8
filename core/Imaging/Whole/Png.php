<?php

declare(strict_types=1);

namespace Ylema\Imaging\Whole;

/** PNG (W3C, third edition), 5.3: every chunk says its length, and IEND is the last. */
final readonly class Png implements Format
{
    public function isWhole(Bytes $file): bool
    {
        for ($at = 8; ($length = $file->big($at, 4)) !== null; $at += 12 + $length) {
            if ($file->slice($at + 4, 4) === 'IEND') {
                return $at + 12 <= $file->length;
            }
        }

        return false;
    }
}
