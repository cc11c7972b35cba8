<?php

declare(strict_types=1);

namespace App\Changes;

use App\Models\Change;
use App\Models\StepState;
use App\Reading\AlreadyReading;
use App\Reading\RefreshIndex;
use App\Support\WorkLock;
use App\Survey\AlreadySurveying;
use App\Survey\Surveys;
use App\Usage\Touched;
use App\Usage\UsageIndex;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Illuminate\Support\Facades\DB;
use Ylema\Plan\StepKind;
use Ylema\Sites\SourceUnavailable;

/** After a change: reads again what it wrote, then looks at the public pages. */
final class AfterChange implements ShouldQueue
{
    use Queueable;

    private const BATCH = 250;

    /** Kinds of change after which what pages show is asked for. */
    private const SURVEYED = ['repair', 'move', 'adopt'];

    /** Enough to know of the rest, and bounded in time. */
    private const PAGES = 400;

    public int $tries = 200;

    public int $timeout = 3600;

    public function __construct(public readonly int $changeId)
    {
    }

    public function handle(RefreshIndex $refresh, Verification $verification): void
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
            $refresh->refresh(
                $change->site,
                $this->records($change),
                $this->paths($change),
                $this->touchesMedia($change),
            );
            $verification->look($change);
            $this->survey($change);
            // Of a change that was turned round meanwhile, another look is still to come.
            Change::query()
                ->whereKey($change->id)
                ->where('state', $state)
                ->update(['followed_up' => true]);
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

    /** @return iterable<array{string, list<string>, list<string>}> kind, keys, and those that may be gone now */
    private function records(Change $change): iterable
    {
        $after = -1;
        do {
            $rows = DB::table('plan_steps')
                ->where('plan_id', $change->plan_id)
                ->where('kind', StepKind::EditRecord->value)
                // Also those that could not be written: somebody else changed them, so the index is old there.
                ->whereNot('state', StepState::Pending->value)
                ->where('position', '>', $after)
                ->orderBy('position')
                ->limit(self::BATCH)
                ->get(['position', 'record_kind', 'record_key', DB::raw("detail->>'moved' as moved")]);
            $texts = static fn (array $keys): array => array_values(array_filter($keys, is_string(...)));
            foreach ($rows->groupBy('record_kind') as $kind => $own) {
                // Of one that got another key, one of the two is there no more.
                $moved = $own->whereNotNull('moved');
                $either = $texts([...$moved->pluck('record_key')->all(), ...$moved->pluck('moved')->all()]);
                $all = array_unique([...$texts($own->pluck('record_key')->all()), ...$either]);
                yield [(string) $kind, array_values($all), $either];
            }
            $after = (int) ($rows->last()->position ?? 0);
        } while ($rows->count() === self::BATCH);
    }

    /** @return iterable<string> */
    private function paths(Change $change): iterable
    {
        $found = DB::table('plan_steps')
            ->where('plan_id', $change->plan_id)
            ->whereIn('kind', self::FILES)
            ->whereIn('state', [StepState::Done->value, StepState::Undone->value])
            ->select('position', 'path', 'detail')
            ->lazyById(self::BATCH, 'position');
        foreach ($found as $row) {
            yield (string) $row->path;
            $detail = json_decode((string) $row->detail, true);
            foreach (['from', 'at'] as $other) {
                if (is_array($detail) && is_string($detail[$other] ?? null)) {
                    yield $detail[$other];
                }
            }
        }
    }

    private const FILES = ['write-file', 'move-file', 'delete-file', 'rest-file', 'wake-file'];

    private function touchesMedia(Change $change): bool
    {
        return $change
            ->steps()
            ->whereIn('kind', ['add-media', 'change-media', 'remove-media'])
            ->whereIn('state', [StepState::Done->value, StepState::Undone->value])
            ->exists();
    }
}
