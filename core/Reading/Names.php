<?php

declare(strict_types=1);

namespace Ylema\Reading;

/** What a reference names: an address (of a file or page), a media item by its id, or another record by its key. */
enum Names: string
{
    case Address = 'address';
    case MediaItem = 'media-item';
    /** Words beside a reference: its alt text, its width; they name nothing and are never in a reading. */
    case Words = 'words';
    case Record = 'record';
    /** A stretch of text around a reference that may go as a whole; never in a reading. */
    case Stretch = 'stretch';
}
