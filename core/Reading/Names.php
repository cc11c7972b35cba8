<?php

declare(strict_types=1);

namespace Ylema\Reading;

/** What a reference names: an address (of a file or page), a media item by its id, or another record by its key. */
enum Names: string
{
    case Address = 'address';
    case MediaItem = 'media-item';
    case Record = 'record';
}
