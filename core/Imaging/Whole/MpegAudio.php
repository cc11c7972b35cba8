<?php

declare(strict_types=1);

namespace Ylema\Imaging\Whole;

/**
 * ISO/IEC 11172-3, 2.4.1 and 13818-3: frames that follow each other. A file that is cut in the middle of one, or that
 * is shorter than its first frame says it is, is not whole; words around the sound are passed over.
 */
final readonly class MpegAudio implements Format
{
    /** kbit/s of MPEG 1 layer III, then of MPEG 2 layer III. */
    private const RATES = [
        [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 0],
        [0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160, 0],
    ];

    private const FREQUENCIES = [3 => [44100, 48000, 32000], 2 => [22050, 24000, 16000], 0 => [11025, 12000, 8000]];

    public function isWhole(Bytes $file): bool
    {
        $at = $this->behindTag($file);
        $at = $first = $at + strspn($file->bytes, "\0", $at);
        $frames = 0;
        while ($at + 4 <= $file->length && ($length = $this->frame($file, $at)) !== null) {
            if ($at + $length > $file->length) {
                return false;
            }
            $at += $length;
            $frames++;
        }

        return $frames > 0 && ! $this->isShorterThanItSays($file, $first);
    }

    /** ID3v2.4, 3.1: the size has seven bits a byte. */
    private function behindTag(Bytes $file): int
    {
        if ($file->slice(0, 3) !== 'ID3') {
            return 0;
        }

        return 10 + ($file->at(6) << 21 | $file->at(7) << 14 | $file->at(8) << 7 | $file->at(9))
            + (($file->at(5) & 0x10) !== 0 ? 10 : 0);
    }

    /** @return int|null its length in bytes; null where no frame of layer III begins */
    private function frame(Bytes $file, int $at): ?int
    {
        $version = $file->at($at + 1) >> 3 & 3;
        $rate = self::RATES[$version === 3 ? 0 : 1][$file->at($at + 2) >> 4];
        $frequency = self::FREQUENCIES[$version][$file->at($at + 2) >> 2 & 3] ?? 0;
        if (
            $file->at($at) !== 0xFF
            || ($file->at($at + 1) & 0xE6) !== 0xE2
            || $rate === 0
            || $frequency === 0
        ) {
            return null;
        }

        return intdiv(($version === 3 ? 144_000 : 72_000) * $rate, $frequency) + ($file->at($at + 2) >> 1 & 1);
    }

    /** Encoders of changing rate write into the first frame how many bytes there are ("Xing" or "Info"). */
    private function isShorterThanItSays(Bytes $file, int $first): bool
    {
        $head = $file->slice($first, 64);
        if (preg_match('~Xing|Info~', $head, $m, PREG_OFFSET_CAPTURE) !== 1) {
            return false;
        }
        $at = $first + $m[0][1];
        $flags = $file->big($at + 4, 4) ?? 0;
        if (($flags & 2) === 0) {
            return false;
        }

        return ($file->big($at + (($flags & 1) === 0 ? 8 : 12), 4) ?? 0) > $file->length - $first;
    }
}
