<?php

declare(strict_types=1);

namespace Ylema\Imaging\Whole;

/** RFC 3533, 6: pages that list their segments; the last one is marked as such. */
final readonly class Ogg implements Format
{
    public function isWhole(Bytes $file): bool
    {
        $at = 0;
        $isLast = false;
        while ($file->slice($at, 4) === 'OggS' && $at + 27 <= $file->length) {
            $isLast = ($file->at($at + 5) & 4) !== 0;
            $segments = $file->at($at + 26);
            $at += 27 + $segments + array_sum((array) unpack('C*', $file->slice($at + 27, $segments)));
        }

        return $isLast && $at === $file->length;
    }
}
