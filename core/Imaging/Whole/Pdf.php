<?php

declare(strict_types=1);

namespace Ylema\Imaging\Whole;

/** ISO 32000-1, 7.5.5: the last lines say where the table of objects is, and that the file ends. */
final readonly class Pdf implements Format
{
    public function isWhole(Bytes $file): bool
    {
        $end = $file->slice(max(0, $file->length - 1024), 1024);
        if (preg_match('~startxref\s+(\d+)\s+%%EOF\s*[^%]*$~', $end, $m) !== 1) {
            return false;
        }
        // Annex F: a linearised file has such lines at its beginning, too, and says its length there.
        $isShort = preg_match('~/Linearized\b[^>]*?/L\s+(\d+)~', $file->slice(0, 1024), $l) === 1
            && (int) $l[1] > $file->length;

        return ! $isShort && (int) $m[1] < $file->length;
    }
}
