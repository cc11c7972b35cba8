<?php

declare(strict_types=1);

namespace Ylema\Sites;

use RuntimeException;
use Throwable;
use Ylema\Failure;

/** A source that does not answer, or not as its field map says; the message names it and says what to check. */
final class SourceUnavailable extends RuntimeException implements Failure
{
    /**
     * @param  string|null  $where the source that failed, without its password
     * @param  string|null  $why in the source's own words
     */
    public function __construct(
        string $message,
        ?Throwable $previous = null,
        public readonly ?string $where = null,
        public readonly ?string $why = null,
    ) {
        parent::__construct($message, previous: $previous);
    }
}
