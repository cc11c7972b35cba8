<?php

declare(strict_types=1);

namespace Ylema\Plan;

use RuntimeException;
use Ylema\Failure;

/** A request that no plan can be made of; the message says why and what to do instead. */
final class CannotPlan extends RuntimeException implements Failure
{
}
