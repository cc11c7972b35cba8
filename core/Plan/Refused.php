<?php

declare(strict_types=1);

namespace Ylema\Plan;

/**
 * A step that a planner would have made but must not; it stays in the plan, with the reason, and is never carried out.
 */
final readonly class Refused
{
    public function __construct(public Step $step, public string $why)
    {
    }
}
