<?php

declare(strict_types=1);

namespace App\Plans;

use RuntimeException;
use Ylema\Failure;

/** A plan or change with which this cannot be done as asked; the message says why and what to do. */
final class PlanRefused extends RuntimeException implements Failure
{
}
