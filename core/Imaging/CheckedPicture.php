<?php

declare(strict_types=1);

namespace Ylema\Imaging;

/** An upload that was judged good: its type by content and its size in pixels (null for a drawing without one). */
final readonly class CheckedPicture
{
    public Embedded $embedded;

    /** @param  Size|null  $size as a person sees it, turned upright */
    public function __construct(
        public string $extension,
        public string $mime,
        public ?Size $size,
        ?Embedded $embedded = null,
    ) {
        $this->embedded = $embedded ?? Embedded::none();
    }
}
