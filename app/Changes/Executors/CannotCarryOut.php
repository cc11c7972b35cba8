<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use RuntimeException;
use Ylema\Failure;

/** What keeps a step from being carried out, in a sentence that says what to do; nothing was written for it. */
final class CannotCarryOut extends RuntimeException implements Failure
{
}
