<?php

declare(strict_types=1);

namespace App\Sites;

/** Something of a site that nobody looked into: a table, a long value, a file, a folder. */
final readonly class NotSearched
{
    /** @param  string  $why a sentence that says what to do */
    public function __construct(public string $place, public string $why)
    {
    }
}
