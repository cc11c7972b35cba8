<?php

declare(strict_types=1);

namespace Ylema\Sites;

use RuntimeException;
use Throwable;
use Ylema\Failure;

/**
 * A source that answers, but will not take this one write (no right, too long, disk full); what was there is there
 * still.
 */
final class WriteRefused extends RuntimeException implements Failure
{
    public function __construct(public readonly string $where, public readonly string $why, ?Throwable $previous = null)
    {
        parent::__construct("$where could not be written: ".rtrim($why, '. ').'.', previous: $previous);
    }

    /** What came back is not what was written, so the write was taken back. */
    public static function notReadBack(string $where, string $hint): self
    {
        return new self(
            $where,
            "the site's source stored something else than was sent, so the write was taken back. $hint",
        );
    }
}
