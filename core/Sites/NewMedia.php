<?php

declare(strict_types=1);

namespace Ylema\Sites;

/** A media row that a plan adds to the source. */
final readonly class NewMedia
{
    /** @param  list<array{path: string, width: int, height: int}>  $renditions */
    public function __construct(
        public string $id,
        public string $path,
        public string $title,
        public string $alt,
        public ?int $width,
        public ?int $height,
        public array $renditions,
    ) {
    }
}
