<?php

declare(strict_types=1);

namespace Ylema\Net;

/** How much of a file's name stands there; the strongest first. */
enum Strength: string
{
    /** A folder and the whole name: `harbour/seal.jpg`, also as the end of an address. */
    case Path = 'path';

    /** The whole name with an ending that files here have. */
    case Name = 'name';

    /** A name without its ending, or of a size of it, that is like no word: a digest, digits, several words. */
    case Stem = 'stem';

    /** A plain word that stands alone as a value; it names the file only where the site's texts hardly have it. */
    case Word = 'word';

    /** The key of its row in the site's list of media, in a column that could hold such keys. */
    case Key = 'key';

    public function isWhole(): bool
    {
        return $this === self::Path || $this === self::Name;
    }
}
