<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Http\UploadedFile;

/** What a file that was sent calls itself: any bytes at all, which are shown, kept and sent back as text. */
final class SentName
{
    /** Bytes: more than a file system takes for a name. */
    private const LONGEST = 255;

    public static function of(UploadedFile $file): string
    {
        $name = preg_replace('~[\x00-\x1F\x7F]+~', ' ', mb_scrub($file->getClientOriginalName())) ?? '';

        return mb_strcut(trim($name), 0, self::LONGEST);
    }
}
