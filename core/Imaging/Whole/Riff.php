<?php

declare(strict_types=1);

namespace Ylema\Imaging\Whole;

/** WebP (RFC 9649, 2.5) and WAVE: the header says how long the file is. */
final readonly class Riff implements Format
{
    public function isWhole(Bytes $file): bool
    {
        $size = $file->little(4, 4);

        return $size !== null && $size > 4 && $size + 8 <= $file->length;
    }
}
