<?php

declare(strict_types=1);

namespace Ylema\Imaging\Whole;

/** AVIF, MP4 and their like (ISO/IEC 14496-12, 4.2): every box states its size; one without says: to the end. */
final readonly class IsoBoxes implements Format
{
    /** @param  list<string>  $needed types of boxes without which there is nothing to show */
    public function __construct(private array $needed)
    {
    }

    public function isWhole(Bytes $file): bool
    {
        $found = [];
        $at = 0;
        while ($at < $file->length) {
            $size = $file->big($at, 4);
            $found[] = $file->slice($at + 4, 4);
            if ($size === 0) {
                $at = $file->length;
                break;
            }
            if ($size === 1) {
                $size = $file->big($at + 8, 8);
            }
            if ($size === null || $size < 8 || $size > $file->length) {
                return false;
            }
            $at += $size;
        }

        return $at === $file->length && array_diff($this->needed, $found) === [];
    }

    /** Whether an AVIF is a sequence (AV1 Image File Format, 6.3: the brand "avis"). */
    public static function isSequence(Bytes $file): bool
    {
        return in_array('avis', self::brands($file), true);
    }

    /** @return list<string> what a file says that it is (4.3): the major brand first, then those it goes along with */
    public static function brands(Bytes $file): array
    {
        if ($file->slice(4, 4) !== 'ftyp') {
            return [];
        }
        $size = min($file->big(0, 4) ?? 0, 512);

        return [$file->slice(8, 4), ...str_split($file->slice(16, max(0, $size - 16)), 4)];
    }
}
