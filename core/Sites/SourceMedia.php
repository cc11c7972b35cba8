<?php

declare(strict_types=1);

namespace Ylema\Sites;

/** A media row as the source holds it. Paths are below the site's root. */
final readonly class SourceMedia
{
    /**
     * @param  list<string>  $tags
     * @param  list<string>  $renditions paths that the row itself lists
     */
    public function __construct(
        public string $id,
        public string $path,
        public string $title,
        public string $alt = '',
        public string $caption = '',
        public string $credit = '',
        public string $folder = '',
        public array $tags = [],
        public array $renditions = [],
        public ?float $focusX = null,
        public ?float $focusY = null,
    ) {
    }
}
