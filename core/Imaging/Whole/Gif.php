<?php

declare(strict_types=1);

namespace Ylema\Imaging\Whole;

/** GIF89a: blocks of blocks up to the trailer (27). */
final readonly class Gif implements Format
{
    public function isWhole(Bytes $file): bool
    {
        return $this->frames($file) !== null;
    }

    /** @return int|null how many pictures it holds; null where it is cut short */
    public function frames(Bytes $file): ?int
    {
        $frames = 0;
        $at = 13 + $this->colours($file->at(10));
        while ($at < $file->length) {
            $block = $file->at($at);
            if ($block === 0x3B) {
                return $frames > 0 ? $frames : null;
            }
            if ($block === 0x21) {
                $at = $this->behindBlocks($file, $at + 2);
            } elseif ($block === 0x2C) {
                $frames++;
                $at = $this->behindBlocks($file, $at + 11 + $this->colours($file->at($at + 9)));
            } else {
                return null;
            }
        }

        return null;
    }

    /** The table of colours that a flag announces (18 and 20), in bytes. */
    private function colours(int $flags): int
    {
        return ($flags & 0x80) === 0 ? 0 : 3 * (2 << ($flags & 7));
    }

    /** Sub-blocks end with an empty one (15 and 16). */
    private function behindBlocks(Bytes $file, int $at): int
    {
        while (($length = $file->at($at)) !== 0) {
            $at += 1 + $length;
        }

        return $at + 1;
    }
}
