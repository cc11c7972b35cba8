<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use App\Sites\OpenSite;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Sites\SourceUnavailable;

/**
 * Carries one kind of step out, or a few that are each other's inverse. Steps come in batches, keyed by their position;
 * one that cannot be carried out is refused and leaves the others alone.
 */
interface Executor
{
    /** @return list<StepKind> */
    public function kinds(): array;

    /**
     * The steps that had to wait for what earlier ones made, with what they lacked. They are noted down before anything
     * is written, so that a process that is killed in between leaves a step that knows its own result.
     *
     * @param  array<int, Step>  $steps
     * @param  array<string, string>  $made promise → what an earlier step of the plan made (see AddMedia)
     * @return array<int, Step|Result> only those that change; a result for one that cannot be completed
     *
     * @throws SourceUnavailable
     */
    public function complete(OpenSite $site, array $steps, array $made): array;

    /**
     * Carries the steps out; one that is done already counts as done.
     *
     * @param  array<int, Step>  $steps
     * @return array<int, Result>
     *
     * @throws SourceUnavailable when the site does not answer; asking again later does no harm
     */
    public function forward(OpenSite $site, array $steps): array;

    /**
     * Ways back that are others than the inverse, for steps on which later changes of ours stand. They are noted down
     * before anything is written, as what complete() finds out.
     *
     * @param  array<int, Step>  $steps as they were carried out
     * @param  array<int, Step>  $noted ways that were noted before a process was killed
     * @return array<int, Step|Result> a result for one that cannot be taken back
     *
     * @throws SourceUnavailable
     */
    public function ways(OpenSite $site, array $steps, array $noted): array;

    /**
     * Takes back steps that were carried out; what somebody changed since is left as it is.
     *
     * @param  array<int, Step>  $steps as they were carried out
     * @param  array<int, Step>  $ways see ways()
     * @return array<int, Result>
     *
     * @throws SourceUnavailable
     */
    public function back(OpenSite $site, array $steps, array $ways = []): array;

    /**
     * What is there now.
     *
     * @param  array<int, Step>  $steps
     * @return array<int, Now>
     *
     * @throws SourceUnavailable
     */
    public function now(OpenSite $site, array $steps): array;
}
