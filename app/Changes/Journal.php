<?php

declare(strict_types=1);

namespace App\Changes;

use App\Models\Change;
use App\Models\ChangeState;
use App\Models\Plan;
use App\Models\PlanState;
use App\Models\StepState;
use App\Models\User;
use App\Plans\PlanRefused;
use Illuminate\Support\Facades\DB;

/**
 * Applies plans and undoes changes, whatever kind they are. A journal row stands before the first write, and each step
 * says of itself whether it is done, so that a killed process is finished by the next one that comes.
 */
final readonly class Journal
{
    /** Ten minutes in all, for whoever waits. */
    private const LOOKS = 2400;

    /** Microseconds. */
    private const PAUSE = 250_000;

    public function __construct(private ChangeWorker $worker)
    {
    }

    /** @throws PlanRefused when it is not open, or nothing of it can be done */
    public function apply(Plan $plan, ?User $by, string $reason): Change
    {
        $change = DB::transaction(function () use ($plan, $by, $reason): Change {
            $plan = Plan::query()->lockForUpdate()->findOrFail($plan->id);
            if ($plan->state !== PlanState::Open) {
                throw new PlanRefused(
                    match ($plan->state) {
                        PlanState::Applied => 'This plan is applied already. Its change is in the journal.',
                        PlanState::Making => 'This plan is still being made. Wait until it is ready.',
                        PlanState::Refused => 'This plan could not be made, so there is nothing to apply: '
                            .$plan->problem,
                        default => 'This plan was dropped for a newer one. Open that one.',
                    },
                );
            }
            if (! $plan->site->writes) {
                throw new PlanRefused(
                    "{$plan->site->name} is only read as yet, so nothing was written. An owner switches writing on: "
                        ."bin/ylema site {$plan->site->slug} --writes=yes",
                );
            }
            $pending = DB::table('plan_steps')
                ->where('plan_id', $plan->id)
                ->where('state', StepState::Proposed->value)
                ->update(['state' => StepState::Pending->value]);
            if ($pending === 0) {
                throw new PlanRefused(
                    'None of the steps of this plan can be carried out. The list says why for each; plan again after '
                        .'that is mended.',
                );
            }
            $plan->update(['state' => PlanState::Applied]);

            return Change::query()->create([
                'site_id' => $plan->site_id,
                'plan_id' => $plan->id,
                'kind' => $plan->kind,
                'state' => ChangeState::Applying,
                'title' => $plan->title,
                'sentence' => $plan->sentence,
                'reason' => $reason,
                'expectation' => $plan->expectation()->toArray(),
                'counts' => $plan->counts,
                'applied_by' => $by?->id,
            ]);
        });
        WorkOnChange::dispatch($change->id);

        return $change;
    }

    /**
     * Takes back what was done, also of a change that was stopped in its middle. @throws PlanRefused when there is
     * nothing to undo
     */
    public function undo(Change $change, ?User $by): Change
    {
        return $this->turn(
            $change,
            static fn (Change $locked): array => $locked->state->canBeUndone()
                ? ['state' => ChangeState::Undoing, 'undone_by' => $by?->id]
                : throw new PlanRefused(
                    $locked->state->isRunning()
                        ? 'This change is being worked on. Stop it first, or wait until it is finished.'
                        : 'This change is undone already.',
                ),
        );
    }

    /**
     * Takes back the later changes that stand on one, the newest first, and then that one. What cannot be taken back
     * ends it there. @throws PlanRefused when there is nothing to undo
     */
    public function undoWithLater(Change $change, ?User $by): Change
    {
        $later = Change::query()
            ->whereIn('id', DB::table('plan_steps')->where('plan_id', $change->plan_id)
                ->where('state', StepState::Kept->value)->whereNotNull('stands_on')->select('stands_on'))
            ->orderBy('id')
            ->get()
            ->filter(static fn (Change $one): bool => $one->state->canBeUndone());
        foreach ($later as $one) {
            $change->update(['undo_after' => $one->id]);
            $change = $one;
        }

        return $this->undo($change, $by);
    }

    /** Undoes what was to be undone after a change that is undone now, or no longer. */
    public function undoNext(Change $undone): void
    {
        if (! in_array($undone->state, [ChangeState::Undone, ChangeState::UndoneInPart], true)) {
            return;
        }
        foreach (Change::query()->where('undo_after', $undone->id)->with('undoer')->get() as $next) {
            $next->update(['undo_after' => null]);
            if ($undone->state === ChangeState::Undone && $next->state->canBeUndone()) {
                $this->undo($next, $undone->undoer);
            }
        }
    }

    /** Goes on with a change that was stopped, the way it was going. @throws PlanRefused when it was not */
    public function goOn(Change $change): Change
    {
        return $this->turn(
            $change,
            static fn (Change $locked): array => match ($locked->state) {
                ChangeState::Stopped => ['state' => ChangeState::Applying],
                ChangeState::UndoStopped => ['state' => ChangeState::Undoing],
                default => throw new PlanRefused('This change was not stopped, so there is nothing to go on with.'),
            },
        );
    }

    /** Tries the steps again that were refused. @throws PlanRefused when none was */
    public function retry(Change $change): Change
    {
        return $this->turn($change, static function (Change $locked): array {
            $again =
                $locked->state === ChangeState::AppliedInPart
                    ? $locked
                        ->steps()
                        ->where('state', StepState::Refused->value)
                        ->update(['state' => StepState::Pending->value, 'message' => null])
                    : 0;

            return $again > 0
                ? ['state' => ChangeState::Applying]
                : throw new PlanRefused('No step of this change waits to be tried again.');
        });
    }

    /** Lets a worker look at all public pages that a change reaches. @throws PlanRefused while it is worked on */
    public function askTheRest(Change $change): Change
    {
        $asked = Change::query()
            ->whereKey($change->id)
            ->whereIn('state', ChangeState::atRest())
            ->update(['look_at_all' => true, 'verification' => null, 'followed_up' => false]);
        if ($asked === 0) {
            throw new PlanRefused('This change has not come to its end. Its pages are looked at once it has.');
        }
        AfterChange::dispatch($change->id);

        return $change->refresh();
    }

    /** Asks whoever works on it to stop between two steps. @throws PlanRefused when nobody does */
    public function stop(Change $change): Change
    {
        $asked = Change::query()
            ->whereKey($change->id)
            ->whereIn('state', [ChangeState::Applying, ChangeState::Undoing])
            ->update(['stop_asked' => true]);
        if ($asked === 0) {
            throw new PlanRefused('This change is not being worked on, so there is nothing to stop.');
        }

        return $change->refresh();
    }

    /** Does what is left to do of a change, forward or back. Only one process at a time works on it. */
    public function work(Change $change): void
    {
        $this->worker->work($change);
    }

    /** The same for whoever waits for its end: a worker may have taken it first, and then that one is waited for. */
    public function finish(Change $change): Change
    {
        $this->work($change);
        for ($i = 0; $i < self::LOOKS && $change->refresh()->state->isRunning(); $i++) {
            usleep(self::PAUSE);
        }

        return $change;
    }

    /** @param  callable(Change): array<string, mixed>  $to */
    private function turn(Change $change, callable $to): Change
    {
        DB::transaction(function () use ($change, $to): void {
            $locked = Change::query()->lockForUpdate()->findOrFail($change->id);
            $locked->update([
                ...$to($locked), 'verification' => null, 'stop_asked' => false, 'followed_up' => false,
                'look_at_all' => false,
            ]);
        });
        WorkOnChange::dispatch($change->id);

        return $change->refresh();
    }
}
