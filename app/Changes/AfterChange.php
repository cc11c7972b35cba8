<?php

declare(strict_types=1);

namespace App\Changes;

use App\Models\Change;
use App\Reading\AlreadyReading;
use App\Support\WorkLock;
use App\Survey\AlreadySurveying;
use App\Survey\Surveys;
use App\Usage\Touched;
use App\Usage\UsageIndex;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Ylema\Sites\SourceUnavailable;

/** After a change: reads again what it wrote, then looks at the public pages. */
final class AfterChange implements ShouldQueue
{
    use Queueable;

    /** Kinds of change after which what pages show is asked for. */
    private const SURVEYED = ['repair', 'move', 'adopt'];

    /** Enough to know of the rest, and bounded in time. */
    private const PAGES = 400;

    public int $tries = 200;

    public int $timeout = 3600;

    public function __construct(public readonly int $changeId)
    {
    }

    public function handle(ReadAgain $reader, Verification $verification, Journal $journal): void
    {
        $change = Change::query()->with('site')->find($this->changeId);
        if ($change === null || $change->state->isRunning()) {
            return;
        }
        $lock = WorkLock::take(WorkLock::FOLLOW_UP, $change->id);
        if ($lock === null) {
            // Somebody follows up what was before; what has changed since is still to be followed up after that.
            $this->release(2);

            return;
        }
        $state = $change->state;
        try {
            $reader->read($change);
            $verification->look($change, $change->look_at_all);
            $this->survey($change);
            // Of a change that was turned round meanwhile, another look is still to come.
            Change::query()
                ->whereKey($change->id)
                ->where('state', $state)
                ->update(['followed_up' => true]);
            $journal->undoNext($change->refresh());
        } catch (AlreadyReading) {
            // The reading that runs may have passed these records before they changed, so wait for it.
            $this->release(3);
        } catch (SourceUnavailable) {
            // The journal holds all; the index follows once the source answers again (recovery asks each minute).
            $this->release(60);
        } finally {
            $lock->release();
        }
    }

    /** After a repair, the pages that it touches are asked whether all that they show loads now. */
    private function survey(Change $change): void
    {
        if (! in_array($change->kind, self::SURVEYED, true)) {
            return;
        }
        $records = Touched::by($change->site_id, $change->plan_id);
        [, $pages] = (new UsageIndex($change->site_id))->sample($records, self::PAGES);
        if ($pages === []) {
            return;
        }
        sort($pages);
        try {
            app(Surveys::class)->begin($change->site, null, $pages, change: $change->id);
        } catch (AlreadySurveying) {
            // The one that runs asks all pages anyway.
        }
    }
}
