<?php

declare(strict_types=1);

namespace App\Changes;

use RuntimeException;

/** A plan that cannot be made or applied as asked; the message says why and what to do. */
final class PlanRefused extends RuntimeException
{
}
