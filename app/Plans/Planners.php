<?php

declare(strict_types=1);

namespace App\Plans;

use Ylema\Plan\CannotPlan;
use Ylema\Plan\Planner;

/** The kinds of plan that this installation can make: a word for each, and the planner that makes it again. */
final class Planners
{
    /** @var array<string, class-string<Planner>> */
    private array $byKind = [];

    /** @param  class-string<Planner>  $planner */
    public function add(string $planner): void
    {
        $this->byKind[$planner::kind()] = $planner;
    }

    /**
     * @param  array<string, mixed>  $request
     *
     * @throws CannotPlan
     */
    public function of(string $kind, array $request): Planner
    {
        $planner =
            $this->byKind[$kind]
            ?? throw new CannotPlan(
                "This installation makes no plans of the kind \"$kind\". Known: "
                    .implode(', ', array_keys($this->byKind))
                    .'.',
            );

        return $planner::of($request);
    }
}
