<?php

declare(strict_types=1);

namespace Ylema\Plan;

/**
 * A planner whose job can be taken up again after a change of it went only halfway.
 *
 * What such a change made is named by its promises: the number in the index of each item that it added.
 */
interface FollowsUp
{
    /**
     * The same job for what is left of it, with what was made already.
     *
     * @param  array<string, int>  $made promise → item
     */
    public function after(array $made): Planner;

    /**
     * The item that stands where another stood, so that what undo had to leave can be found.
     *
     * @param  array<string, int>  $made promise → item
     */
    public function stoodIn(array $made): ?int;

    /**
     * The way back at some places, as a plan of its own.
     *
     * @param  array<string, int>  $made promise → item
     */
    public function back(array $made, Places $places): Planner;
}
