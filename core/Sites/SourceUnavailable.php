<?php

declare(strict_types=1);

namespace Ylema\Sites;

use RuntimeException;

/** A source that does not answer or refuses; the message names it and says what to check. */
final class SourceUnavailable extends RuntimeException
{
}
