<?php

declare(strict_types=1);

namespace App\Changes;

use App\Models\Change;
use App\Models\ChangeState;
use App\Support\Clock;
use App\Support\WorkLock;
use Throwable;

/** Finishes what killed processes left in the middle; each change by itself, so that none keeps another waiting. */
final readonly class Recovery
{
    public function __construct(private Journal $journal)
    {
    }

    /** @return int how many changes were found in the middle and finished */
    public function run(): int
    {
        $count = 0;
        $rows = Change::query()
            ->whereIn('state', [ChangeState::Applying, ChangeState::Undoing])
            ->orderBy('id')
            ->pluck('id');
        foreach ($rows as $id) {
            try {
                $change = Change::query()->whereKey($id)->firstOrFail();
                $before = $change->state;
                $this->journal->work($change);
                $count += $change->refresh()->state !== $before ? 1 : 0;
            } catch (Throwable $e) {
                // The journal keeps it; the next recovery tries again, and the others are not kept waiting.
                report($e);
            }
        }
        $this->followUp();

        return $count;
    }

    /** What follows a change is lost when a process dies between its last step and handing it on. */
    private function followUp(): void
    {
        $finished = [ChangeState::Applied, ChangeState::AppliedInPart, ChangeState::Undone, ChangeState::UndoneInPart];
        $open = Change::query()->where('followed_up', false)->whereIn('state', $finished);
        $found = Clock::past($open, 'updated_at', 30)
            ->orderBy('id')
            ->pluck('id');
        foreach ($found as $id) {
            if (WorkLock::isFree(WorkLock::FOLLOW_UP, (int) $id)) {
                Change::query()
                    ->whereKey($id)
                    ->update(['updated_at' => now()]);
                AfterChange::dispatch((int) $id);
            }
        }
    }
}
