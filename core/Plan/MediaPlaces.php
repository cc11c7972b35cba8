<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** Where the site's own list of media says that an item's files lie, as its row spells it. */
final readonly class MediaPlaces
{
    /**
     * @param  string  $id of the row in the source
     * @param  string|null  $folder null where the table has no such column
     * @param  string|null  $renditions a list in JSON; null likewise
     * @param  array<string, string>  $sizes paths of smaller pictures in columns of their own, by the words that change
     *       them
     * @param  array<string, string>  $schemes of the site's own addresses → folder below the root, ending in `/`
     */
    public function __construct(
        public string $id,
        public string $path,
        public ?string $folder = null,
        public ?string $renditions = null,
        public array $sizes = [],
        public array $schemes = [],
    ) {
    }
}
