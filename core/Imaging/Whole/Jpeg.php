<?php

declare(strict_types=1);

namespace Ylema\Imaging\Whole;

/** ITU T.81, B.1.1: segments, scans between them, and the end marker; what some cameras append is left alone. */
final readonly class Jpeg implements Format
{
    public function isWhole(Bytes $file): bool
    {
        $at = 2;
        $isDrawn = false;
        while ($at + 1 < $file->length) {
            if ($file->at($at) !== 0xFF) {
                return false;
            }
            $marker = $file->at($at + 1);
            if ($marker === 0xD9) {
                return $isDrawn;
            }
            // B.1.1.2: fill bytes, and markers that stand alone.
            if ($marker === 0xFF) {
                $at++;

                continue;
            }
            if ($marker === 0x01 || ($marker >= 0xD0 && $marker <= 0xD8)) {
                $at += 2;

                continue;
            }
            $length = $file->big($at + 2, 2);
            if ($length === null || $length < 2 || $at + 2 + $length > $file->length) {
                return false;
            }
            $at += 2 + $length;
            if ($marker === 0xDA) {
                $isDrawn = true;
                $at = $this->behindScan($file, $at);
            }
        }

        return false;
    }

    /** A scan ends at the next marker that is neither a stuffed byte nor a restart. */
    private function behindScan(Bytes $file, int $at): int
    {
        while (($next = strpos($file->bytes, "\xFF", $at)) !== false) {
            $marker = $file->at($next + 1);
            if ($next + 1 === $file->length) {
                break;
            }
            if ($marker !== 0x00 && $marker !== 0xFF && ($marker < 0xD0 || $marker > 0xD7)) {
                return $next;
            }
            $at = $next + ($marker === 0xFF ? 1 : 2);
        }

        return $file->length;
    }
}
