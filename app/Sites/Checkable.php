<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Sites\SourceUnavailable;

/** A source that can be held against its field map before anything is read from it. */
interface Checkable
{
    /** @throws FieldMapError|SourceUnavailable for the first thing that is not as the map says */
    public function check(): void;
}
