<?php

declare(strict_types=1);

namespace App\Reading;

use finfo;

/** What a file is, from its bytes: hash, type and pixels. Headers only; no pixel is decoded. */
final readonly class FileProbe
{
    private function __construct(public string $sha256, public string $mime, public ?int $width, public ?int $height)
    {
    }

    public static function of(string $bytes): self
    {
        $info = @getimagesizefromstring($bytes);
        $mime =
            $info !== false && $info[0] > 0
                ? $info['mime']
                : (new finfo(FILEINFO_MIME_TYPE))->buffer(substr($bytes, 0, 65536));

        return new self(
            hash('sha256', $bytes),
            $mime === false ? 'application/octet-stream' : $mime,
            $info !== false && $info[0] > 0 ? $info[0] : null,
            $info !== false && $info[1] > 0 ? $info[1] : null,
        );
    }
}
