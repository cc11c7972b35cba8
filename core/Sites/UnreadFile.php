<?php

declare(strict_types=1);

namespace Ylema\Sites;

/** Something in the store that is listed but never opened: a device, a pipe, a link that leads out of the root. */
final readonly class UnreadFile
{
    /** @param  string  $why a sentence */
    public function __construct(public string $path, public string $why)
    {
    }
}
