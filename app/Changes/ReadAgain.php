<?php

declare(strict_types=1);

namespace App\Changes;

use App\Models\Change;
use App\Models\StepState;
use App\Reading\AlreadyReading;
use App\Reading\RefreshIndex;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Sleep;
use Ylema\Plan\StepKind;
use Ylema\Sites\SourceUnavailable;

/** Reads again what a change wrote, and what it found changed by somebody else. */
final readonly class ReadAgain
{
    private const BATCH = 250;

    /** How long somebody who plans with what was left waits for a reading of a few records that runs: 5 seconds. */
    private const TRIES = 20;

    private const MILLISECONDS = 250;

    public function __construct(private RefreshIndex $refresh)
    {
    }

    /**
     * @throws AlreadyReading while another reading runs
     * @throws SourceUnavailable
     */
    public function read(Change $change): void
    {
        $this->refresh->refresh(
            $change->site,
            $this->records($change),
            $this->paths($change),
            $this->touchesMedia($change),
        );
    }

    /**
     * At once, for whoever plans with what the change left: its follow-up may still wait for a worker.
     *
     * @throws AlreadyReading
     * @throws SourceUnavailable
     */
    public function beforePlanning(Change $change): void
    {
        for ($try = 1; ! $change->refresh()->followed_up; $try++) {
            try {
                $this->read($change);

                return;
            } catch (AlreadyReading $e) {
                if ($try === self::TRIES) {
                    throw $e;
                }
                Sleep::for(self::MILLISECONDS)->milliseconds();
            }
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
