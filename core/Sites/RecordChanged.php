<?php

declare(strict_types=1);

namespace Ylema\Sites;

use RuntimeException;

/** A record that is no longer what the plan saw; nothing was written to it. */
final class RecordChanged extends RuntimeException
{
    public static function since(string $kind, string $key): self
    {
        return new self("The $kind \"$key\" was changed by someone else since the plan was made, so it was not written. Plan again to take their change along.");
    }

    public static function gone(string $kind, string $key): self
    {
        return new self("The $kind \"$key\" no longer exists, so there was nothing to write.");
    }
}
