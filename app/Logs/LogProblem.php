<?php

declare(strict_types=1);

namespace App\Logs;

use RuntimeException;
use Ylema\Failure;

/** An access log that cannot be read; the message says why and what to do. */
final class LogProblem extends RuntimeException implements Failure
{
}
