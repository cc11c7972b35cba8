<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Generator;

/**
 * Makes one kind of plan: facts in, steps out, nothing written.
 *
 * A planner is a pure function of its request and the facts that it asks for, so the same request against the site as
 * it is later makes the same plan again. Steps are yielded one by one, in the order in which they must be carried out,
 * and are never all in memory.
 */
interface Planner
{
    /** The word under which plans of this kind are kept: `swap`. */
    public static function kind(): string;

    /** @param  array<mixed>  $request as request() gave it */
    public static function of(array $request): self;

    /** @return array<string, mixed> what was asked for; plain values that JSON can hold */
    public function request(): array;

    /**
     * @return Generator<int, Step|Refused, void, Outline>
     *
     * @throws CannotPlan when the request makes no sense on this site as it is
     */
    public function plan(Facts $facts): Generator;
}
