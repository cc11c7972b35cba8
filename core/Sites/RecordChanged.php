<?php

declare(strict_types=1);

namespace Ylema\Sites;

use RuntimeException;
use Ylema\Failure;

/** A record that is no longer what the plan saw; nothing was written to it. */
final class RecordChanged extends RuntimeException implements Failure
{
    /** @param  bool  $isGone whether the record is no longer there at all */
    private function __construct(
        string $message,
        public readonly string $kind,
        public readonly string $key,
        public readonly bool $isGone,
    ) {
        parent::__construct($message);
    }

    public static function since(string $kind, string $key): self
    {
        return new self(
            "The $kind \"$key\" was changed by someone else since the plan was made, so it was not written. Plan "
                .'again to take their change along.',
            $kind,
            $key,
            false,
        );
    }

    public static function gone(string $kind, string $key): self
    {
        return new self("The $kind \"$key\" no longer exists, so there was nothing to write.", $kind, $key, true);
    }
}
