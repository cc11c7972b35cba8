<?php

declare(strict_types=1);

namespace Ylema\Imaging\Whole;

/** WebM (RFC 8794, 4 and 6; RFC 9559): the segment says its size, unless it was written while it was filmed. */
final readonly class Matroska implements Format
{
    private const SEGMENT = "\x18\x53\x80\x67";

    public function isWhole(Bytes $file): bool
    {
        $head = $this->number($file, 4);
        if ($head === null) {
            return false;
        }
        $segment = 4 + $head[1] + (int) $head[0];
        if ($file->slice($segment, 4) !== self::SEGMENT) {
            return false;
        }
        $size = $this->number($file, $segment + 4);

        return $size !== null && ($size[0] === null || $segment + 4 + $size[1] + $size[0] <= $file->length);
    }

    /** @return array{int|null, int}|null a number and its own length; the number is null where it says "not known" */
    private function number(Bytes $file, int $at): ?array
    {
        $first = $file->at($at);
        if ($first === 0) {
            return null;
        }
        $length = 8 - (int) floor(log($first, 2));
        $value = $file->big($at, $length);
        if ($value === null) {
            return null;
        }
        $value &= (1 << 7 * $length) - 1;

        return [$value === (1 << 7 * $length) - 1 ? null : $value, $length];
    }
}
