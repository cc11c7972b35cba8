<?php

declare(strict_types=1);

namespace App\Sites;

/** A table with a row for each size that was made of a media item. */
final readonly class SizesMap
{
    /**
     * @param  string  $media the column with the id of the media row
     * @param  Template  $path below the site's root, from columns of this table
     */
    public function __construct(
        public string $table,
        public string $media,
        public Template $path,
        public ?string $where = null,
    ) {
    }
}
