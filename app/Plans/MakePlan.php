<?php

declare(strict_types=1);

namespace App\Plans;

use App\Models\Plan;
use App\Models\PlanState;
use App\Support\OwnDatabase;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/** Makes a plan that was asked for. */
final class MakePlan implements ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    public int $timeout = 3600;

    public function __construct(public readonly int $planId)
    {
    }

    public function handle(PlanDesk $desk): void
    {
        $plan = Plan::query()->find($this->planId);
        if ($plan !== null) {
            $desk->work($plan);
        }
    }

    public function failed(?Throwable $why): void
    {
        Plan::query()
            ->whereKey($this->planId)
            ->where('state', PlanState::Making)
            ->update([
                'state' => PlanState::Refused,
                'problem' => ($why === null ? null : OwnDatabase::says($why)) ?? 'The plan could not be made: '
                    .($why?->getMessage() ?? 'the worker was cut off')
                    .'. Ask for it again.',
            ]);
    }
}
