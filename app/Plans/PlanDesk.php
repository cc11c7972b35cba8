<?php

declare(strict_types=1);

namespace App\Plans;

use App\Models\Change;
use App\Models\MediaItem;
use App\Models\Plan;
use App\Models\PlanState;
use App\Models\Site;
use App\Models\User;
use App\Support\Clock;
use App\Support\WorkLock;
use Ylema\Plan\FollowsUp;
use Ylema\Plan\Planner;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\AddMedia;

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

    /** The same request against the site as it is now; of a plan that was applied in part, what is left of it. */
    public function again(Plan $plan, ?User $by): Plan
    {
        $planner = $this->planners->of($plan->kind, $plan->request);
        if ($planner instanceof FollowsUp && $plan->state === PlanState::Applied) {
            $planner = $planner->after($this->made($plan));
        }
        $new = $this->begin($plan->site, $planner, $by);
        if ($plan->state === PlanState::Open && $new->state !== PlanState::Refused) {
            $plan->update(['state' => PlanState::Dropped]);
        }

        return $new;
    }

    /**
     * The way back for what undo had to leave: the records that somebody else edited meanwhile, as they are now.
     *
     * @throws PlanRefused when nothing is left, or nothing of this kind can be led back
     */
    public function back(Change $change, ?User $by): Plan
    {
        $planner = $this->planners->of($change->plan->kind, $change->plan->request);
        $made = $this->made($change->plan);
        $item = $planner instanceof FollowsUp ? $planner->stoodIn($made) : null;
        if (! $planner instanceof FollowsUp || $item === null) {
            throw new PlanRefused(
                'What is left of this change can only be put back by hand; the list shows what it was.',
            );
        }
        $places = ChosenPlaces::inKept($item, $change->plan_id);
        if ($places->places === []) {
            throw new PlanRefused(
                'No record that was left still names the file that came. There is nothing to put back.',
            );
        }

        return $this->begin($change->site, $planner->back($made, $places), $by);
    }

    /** @return array<string, int> promise → number in the index, of the items that a change of this plan added */
    private function made(Plan $plan): array
    {
        $made = [];
        foreach ($plan->steps()->where('kind', StepKind::AddMedia->value)->get() as $row) {
            $step = $row->step();
            if ($step instanceof AddMedia) {
                $item = MediaItem::query()
                    ->where('site_id', $plan->site_id)
                    ->where('path', $step->media->path)
                    ->value('id');
                if (is_int($item)) {
                    $made[$step->promise] = $item;
                }
            }
        }

        return $made;
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
        $rows = Clock::past(Plan::query()->where('state', PlanState::Making), 'updated_at', 30)->get();
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
