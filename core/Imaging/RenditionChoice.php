<?php

declare(strict_types=1);

namespace Ylema\Imaging;

/** Which file of another item stands in best for a given one. */
final class RenditionChoice
{
    /**
     * An original is answered by an original. A rendition is answered by the smallest file that is at
     * least as wide and has nearly the same shape; failing that, by the smallest that is wide enough;
     * failing that, by the original.
     *
     * @param  list<PictureFile>  $files at least one, exactly one of them the original
     */
    public static function for(PictureFile $wanted, array $files): PictureFile
    {
        $original = $files[0];
        foreach ($files as $file) {
            if ($file->isOriginal) {
                $original = $file;
            }
        }
        if ($wanted->isOriginal || $wanted->size === null) {
            return $original;
        }
        $best = null;
        $bestScore = null;
        foreach ($files as $file) {
            if ($file->size === null || $file->size->width < $wanted->size->width) {
                continue;
            }
            $shape = abs(log($file->size->ratio() / $wanted->size->ratio())) > 0.03 ? 1 : 0;
            $score = [$shape, $file->size->pixels()];
            if ($bestScore === null || $score < $bestScore) {
                $best = $file;
                $bestScore = $score;
            }
        }

        return $best ?? $original;
    }
}
