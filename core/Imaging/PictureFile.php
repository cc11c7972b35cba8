<?php

declare(strict_types=1);

namespace Ylema\Imaging;

/** A file of a media item: its original, or a rendition of it. Sizes in pixels are null where the type has none. */
final readonly class PictureFile
{
    public function __construct(public string $path, public ?Size $size, public bool $isOriginal = false)
    {
    }
}
