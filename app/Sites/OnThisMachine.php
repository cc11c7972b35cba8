<?php

declare(strict_types=1);

namespace App\Sites;

/** A store whose files the file system of this machine can take elsewhere, whole, in one move. */
interface OnThisMachine
{
    /** @return string|null where a path lies, or would lie; null for a link, which is not its own bytes */
    public function fileAt(string $path): ?string;
}
