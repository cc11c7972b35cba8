<?php

declare(strict_types=1);

namespace App\Plans;

use App\Models\Plan;
use App\Models\PlanState;
use App\Models\Site;
use App\Models\User;
use App\Support\WorkLock;
use Ylema\Plan\Planner;

/** Plans from their asking to their being ready: begun on a request, made by a worker, made again, dropped. */
final readonly class PlanDesk
{
    public function __construct(private Planners $planners, private PlanMaker $maker)
    {
    }

    public function begin(Site $site, Planner $planner, ?User $by): Plan
    {
        $plan = Plan::query()->create([
            'site_id' => $site->id,
            'kind' => $planner::kind(),
            'state' => PlanState::Making,
            'request' => $planner->request(),
            'made_by' => $by?->id,
        ]);
        MakePlan::dispatch($plan->id);

        return $plan->refresh();
    }

    /**
     * Makes it at once, for whoever waits for it.
     *
     * @throws PlanRefused when it cannot be made; the message says why
     */
    public function make(Site $site, Planner $planner, ?User $by): Plan
    {
        $plan = Plan::query()->create([
            'site_id' => $site->id,
            'kind' => $planner::kind(),
            'state' => PlanState::Making,
            'request' => $planner->request(),
            'made_by' => $by?->id,
        ]);
        $this->work($plan);
        if ($plan->refresh()->state === PlanState::Refused) {
            throw new PlanRefused((string) $plan->problem);
        }

        return $plan;
    }

    /** What a worker does; running it again is safe. */
    public function work(Plan $plan): void
    {
        $lock = WorkLock::take(WorkLock::PLAN, $plan->id);
        if ($lock === null) {
            return;
        }
        try {
            if ($plan->refresh()->state === PlanState::Making) {
                $this->maker->make($plan, $this->planners->of($plan->kind, $plan->request));
            }
        } finally {
            $lock->release();
        }
    }

    /** The same request against the site as it is now. */
    public function again(Plan $plan, ?User $by): Plan
    {
        $new = $this->begin($plan->site, $this->planners->of($plan->kind, $plan->request), $by);
        if ($plan->state === PlanState::Open && $new->state !== PlanState::Refused) {
            $plan->update(['state' => PlanState::Dropped]);
        }

        return $new;
    }

    public function drop(Plan $plan): void
    {
        Plan::query()
            ->whereKey($plan->id)
            ->whereIn('state', [PlanState::Open, PlanState::Making, PlanState::Refused])
            ->update(['state' => PlanState::Dropped]);
    }

    /** @return int how many plans a dead worker had left, which are made anew */
    public function recover(): int
    {
        $count = 0;
        $rows = Plan::query()
            ->where('state', PlanState::Making)
            ->where('updated_at', '<', now()->subSeconds(30))
            ->get();
        foreach ($rows as $plan) {
            if (WorkLock::isFree(WorkLock::PLAN, $plan->id)) {
                $plan->touch();
                MakePlan::dispatch($plan->id);
                $count++;
            }
        }

        return $count;
    }
}
