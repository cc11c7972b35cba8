<?php

declare(strict_types=1);

namespace App\Changes;

use App\Changes\Executors\Executors;
use App\Changes\Executors\Result;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\StepState;
use App\Sites\OpenSite;
use App\Sites\SiteOpener;
use App\Support\BulkRows;
use App\Support\Sql;
use App\Support\StillMoment;
use App\Support\WorkLock;
use Illuminate\Support\Facades\DB;
use stdClass;
use Throwable;
use Ylema\Failure;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\DeleteFile;
use Ylema\Plan\Steps\RemoveMedia;
use Ylema\Plan\Steps\RestFile;
use Ylema\Sites\SourceUnavailable;

/** Carries the steps of a change out, batch by batch, or takes them back. */
final class ChangeWorker
{
    private const BATCH = 200;

    /** How long a source that does not answer is waited for, in milliseconds before each further try. */
    private const PATIENCE = [300, 1200, 4000];

    /** Once it was waited for in vain, the rest of a change is not made to wait as well. */
    private bool $gaveUp = false;

    public function __construct(private readonly SiteOpener $opener, private readonly Executors $executors)
    {
    }

    public function work(Change $change): void
    {
        $lock = WorkLock::take(WorkLock::CHANGE, $change->id);
        if ($lock === null) {
            return;
        }
        try {
            $this->gaveUp = false;
            $change = Change::query()->with('site')->findOrFail($change->id);
            if ($change->state === ChangeState::Applying) {
                $this->carryOut($change, $lock, false);
            } elseif ($change->state === ChangeState::Undoing) {
                $this->carryOut($change, $lock, true);
            }
        } finally {
            $lock->release();
        }
    }

    private function carryOut(Change $change, WorkLock $lock, bool $back): void
    {
        try {
            $site = $this->opener->open($change->site);
        } catch (Failure $e) {
            $this->refuseRest($change, $back, $e->getMessage());
            $this->finish($change, $back, null);

            return;
        }
        $made = $back ? [] : $this->made($change);
        $last = (int) DB::table('plan_steps')->where('plan_id', $change->plan_id)->max('position');
        $at = $back ? $last + 1 : -1;
        while (($steps = $this->batch($change, $back, $at, $last)) !== []) {
            if (! $lock->isHeld()) {
                // The connection was lost meanwhile; somebody else may be at work already.
                return;
            }
            if (Change::query()->whereKey($change->id)->value('stop_asked') === true) {
                $change->update([
                    'state' => $back ? ChangeState::UndoStopped : ChangeState::Stopped,
                    'stop_asked' => false,
                    'counts' => $this->counts($change),
                ]);

                return;
            }
            $results = StillMoment::pass(function () use ($change, $site, $steps, $back, $made): array {
                $results = $this->attempt($change, $site, $steps, $back, $made);
                $this->note($change, $steps, $results, $back);
                $this->turn($change, $site, $steps, $results, $back);

                return $results;
            });
            foreach ($results as $result) {
                if ($result->step instanceof AddMedia && $result->step->row !== null) {
                    $made[$result->step->promise] = $result->step->row->id;
                }
            }
            $at = array_key_last($steps);
        }
        StillMoment::pass(fn () => $this->settle($change, $site, $back));
        $this->finish($change, $back, $site);
    }

    /**
     * The next steps of one kind; back, the last one first. Read without models, since there may be very many.
     *
     * @return array<int, Step> by position
     */
    private function batch(Change $change, bool $back, int $at, int $last): array
    {
        // A window of positions instead of "the next so many": found by the key alone, whatever the database believes
        // of a plan that was written a moment ago. Windows with nothing left to do are passed over.
        $states = $back ? "('done', 'kept')" : "('pending')";
        $order = $back ? 'desc' : 'asc';
        do {
            [$from, $to] = $back ? [$at - self::BATCH, $at - 1] : [$at + 1, $at + self::BATCH];
            if ($to < 0 || $from > $last) {
                return [];
            }
            $rows = DB::select(
                "select position, kind, detail from plan_steps where plan_id = ? and position between ? and ?
                    and state in $states order by position $order",
                [$change->plan_id, $from, $to],
            );
            $at = $back ? $from : $to;
        } while ($rows === []);
        $steps = [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            if ($row->kind !== $rows[0]->kind) {
                break;
            }
            $detail = json_decode($row->detail, true, 64, JSON_THROW_ON_ERROR);
            $steps[(int) $row->position] = StepKind::from($row->kind)->restore(is_array($detail) ? $detail : []);
        }

        return $steps;
    }

    /**
     * @param  non-empty-array<int, Step>  $own
     * @param  array<string, string>  $made
     * @return array<int, Result> by position
     */
    private function attempt(Change $change, OpenSite $site, array $own, bool $back, array $made): array
    {
        $executor = $this->executors->of(reset($own)->kind());
        $dependencies = new Dependencies($change);
        $kept = array_map(
            Result::refused(...),
            $back ? $dependencies->stillNeeded($own) : $dependencies->inVain($own),
        );
        $kept += $back ? [] : $this->stillNamed($change, array_diff_key($own, $kept));
        $own = array_diff_key($own, $kept);
        for ($try = 0; ; $try++) {
            try {
                if (! $back) {
                    [$own, $unfit] = $this->completed($change, $executor->complete($site, $own, $made), $own);
                    $kept += $unfit;
                }

                return $kept
                    + match (true) {
                        $own === [] => [],
                        $back => (new WaysBack($change, $site, $executor))->take($own),
                        default => $executor->forward($site, $own),
                    };
            } catch (SourceUnavailable $e) {
                if ($this->gaveUp || ! isset(self::PATIENCE[$try])) {
                    $this->gaveUp = true;

                    return $kept + array_map(static fn (): Result => Result::refused($e->getMessage()), $own);
                }
                usleep(self::PATIENCE[$try] * 1000);
            } catch (Throwable $e) {
                return $kept + $this->each($site, $own, $back, $e);
            }
        }
    }

    /**
     * Notes down what the steps lacked before any of them is carried out.
     *
     * @param  array<int, Step|Result>  $completed
     * @param  array<int, Step>  $steps
     * @return array{array<int, Step>, array<int, Result>} the steps that can be carried out, and what came of those
     *       that cannot
     */
    private function completed(Change $change, array $completed, array $steps): array
    {
        $unfit = array_filter($completed, static fn (Step|Result $one): bool => $one instanceof Result);
        $whole = array_filter($completed, static fn (Step|Result $one): bool => $one instanceof Step);
        if ($whole !== []) {
            $rows = array_map(
                static fn (int $position, Step $step): array => ['p' => $position, 'd' => $step->toArray()],
                array_keys($whole),
                $whole,
            );
            DB::update(
                'update plan_steps t set detail = v.d from jsonb_to_recordset(cast(? as jsonb)) as v(p integer, d '
                    .'jsonb) where t.plan_id = ? and t.position = v.p',
                [BulkRows::json($rows), $change->plan_id],
            );
        }

        return [array_diff_key(array_replace($steps, $whole), $unfit), $unfit];
    }

    /**
     * Something nobody thought of: each step by itself, so that it stops no other.
     *
     * @param  array<int, Step>  $steps
     * @return array<int, Result>
     */
    private function each(OpenSite $site, array $steps, bool $back, Throwable $why): array
    {
        report($why);
        $results = [];
        foreach ($steps as $position => $step) {
            $executor = $this->executors->of($step->kind());
            try {
                if (count($steps) === 1) {
                    throw $why;
                }
                $own = [$position => $step];
                $results += $back ? $executor->back($site, $own) : $executor->forward($site, $own);
            } catch (Failure $e) {
                $results[$position] = Result::refused($e->getMessage());
            } catch (Throwable $e) {
                $results[$position] = Result::refused(
                    "An error that Ylema does not know kept this from being done ({$e->getMessage()}). It is in the "
                        .'log; try again.',
                );
            }
        }

        return $results;
    }

    /**
     * What was done, or taken back, before a step was refused that it cannot be without.
     *
     * @param  array<int, Step>  $steps
     * @param  array<int, Result>  $results
     */
    private function turn(Change $change, OpenSite $site, array $steps, array $results, bool $back): void
    {
        $why = array_filter(array_map(static fn (Result $one): ?string => $one->why, $results), is_string(...));
        $refused = array_intersect_key($steps, $why);
        while ($refused !== []) {
            $turned = (new Dependencies($change))->toTurn($refused, $why, $back);
            $refused = $why = [];
            foreach ($this->alike($turned) as $own) {
                foreach ($this->turned($site, $own, $back) as $position => $result) {
                    $reason = $turned[$position][1];
                    if ($result->why === null) {
                        [$refused[$position], $why[$position]] = [$own[$position], $reason];
                        $this->say($change, $position, $back ? StepState::Kept : StepState::Refused, $reason);
                    } else {
                        $reason .= " And it could not be turned round: $result->why";
                        $this->say($change, $position, $back ? StepState::Undone : StepState::Done, $reason);
                    }
                }
            }
        }
    }

    /**
     * @param  array<int, array{Step, string}>  $turned
     * @return list<array<int, Step>> batches of one kind each
     */
    private function alike(array $turned): array
    {
        $batches = [];
        $last = null;
        foreach ($turned as $position => [$step]) {
            if ($last !== $step->kind() || count($batches[array_key_last($batches)] ?? []) === self::BATCH) {
                $batches[] = [];
                $last = $step->kind();
            }
            $batches[array_key_last($batches)][$position] = $step;
        }

        return $batches;
    }

    /**
     * @param  array<int, Step>  $steps of one kind
     * @return array<int, Result>
     */
    private function turned(OpenSite $site, array $steps, bool $back): array
    {
        $first = reset($steps);
        if ($first === false) {
            return [];
        }
        try {
            $executor = $this->executors->of($first->kind());

            return $back ? $executor->forward($site, $steps) : $executor->back($site, $steps);
        } catch (SourceUnavailable $e) {
            return array_map(static fn (): Result => Result::refused($e->getMessage()), $steps);
        }
    }

    /** Whatever a process that was killed had noted as refused, and had not come to turn round. */
    private function settle(Change $change, OpenSite $site, bool $back): void
    {
        $state = ($back ? StepState::Kept : StepState::Refused)->value;
        $at = -1;
        do {
            $rows = DB::select(
                'select position, kind, detail, message from plan_steps where plan_id = ? and state = ? '
                    .'and position > ? and (gives is not null or needs is not null) order by position limit '
                    .self::BATCH,
                [$change->plan_id, $state, $at],
            );
            $steps = $results = [];
            /** @var stdClass $row */
            foreach ($rows as $row) {
                $at = (int) $row->position;
                $detail = json_decode((string) $row->detail, true, 64, JSON_THROW_ON_ERROR);
                $steps[$at] = StepKind::from((string) $row->kind)->restore(is_array($detail) ? $detail : []);
                $results[$at] = Result::refused((string) $row->message);
            }
            $this->turn($change, $site, $steps, $results, $back);
        } while ($rows !== []);
    }

    private function say(Change $change, int $position, StepState $state, string $message): void
    {
        DB::update(
            'update plan_steps set state = ?, message = ? where plan_id = ? and position = ?',
            [$state->value, $message, $change->plan_id, $position],
        );
    }

    /**
     * What must not go, since a record that could not be written a moment ago may still name it.
     *
     * @param  array<int, Step>  $steps
     * @return array<int, Result>
     */
    private function stillNamed(Change $change, array $steps): array
    {
        $going = array_filter(
            $steps,
            static fn (Step $step): bool => $step instanceof RestFile
                || $step instanceof RemoveMedia
                || $step instanceof DeleteFile,
        );
        $isWhole = $going === [] || $change->steps()
            ->where('kind', StepKind::EditRecord->value)
            ->where('state', StepState::Refused->value)
            ->doesntExist();
        if ($isWhole) {
            return [];
        }
        $paths = array_map(self::goingPaths(...), $going);
        $named = $this->namedBy($change, StepState::Refused, array_merge(...array_values($paths)));
        $named = array_fill_keys([...array_column($named, 'item'), ...array_column($named, 'file')], true);

        return array_map(
            static fn (): Result => Result::refused(
                'It stays: a record that could not be written may still name it. Put that right first, then plan '
                    .'again.',
            ),
            array_filter(
                $going,
                static fn (int $i): bool => array_intersect_key(array_flip($paths[$i]), $named) !== [],
                ARRAY_FILTER_USE_KEY,
            ),
        );
    }

    /** @return list<string> of the file, and of the item that it belongs to */
    private static function goingPaths(Step $step): array
    {
        return match (true) {
            $step instanceof RestFile => [$step->path, $step->with->item],
            $step instanceof RemoveMedia, $step instanceof DeleteFile => [$step->path],
            default => [],
        };
    }

    /**
     * Which of some items and files are named by records whose steps came to this end, as they were last read.
     *
     * @param  list<string>  $paths
     * @return list<array{record: int, item: string, file: string}>
     */
    private function namedBy(Change $change, StepState $state, array $paths): array
    {
        $rows = DB::select(
            <<<'SQL'
            select distinct r.id as record, coalesce(i.path, '') as item, coalesce(f.path, '') as file from plan_steps s
            join records r on r.site_id = ? and r.kind = s.record_kind
                and r.key in (s.record_key, s.detail->>'moved')
            join media_references m on m.record_id = r.id
            left join media_items i on i.id = m.media_item_id
            left join addresses a on a.id = m.address_id left join files f on f.id = a.file_id
            where s.plan_id = ? and s.kind = 'edit-record' and s.state = ?
                and (i.path = any(cast(? as text[])) or f.path = any(cast(? as text[])))
            SQL
            ,
            [$change->site_id, $change->plan_id, $state->value, Sql::texts($paths), Sql::texts($paths)],
        );

        return array_values(
            array_map(
                static fn (stdClass $row): array => [
                    'record' => (int) $row->record,
                    'item' => (string) $row->item,
                    'file' => (string) $row->file,
                ],
                $rows,
            ),
        );
    }

    /**
     * One statement for the whole batch, and the shortest where all of it went well.
     *
     * @param  non-empty-array<int, Step>  $steps
     * @param  array<int, Result>  $results
     */
    private function note(Change $change, array $steps, array $results, bool $back): void
    {
        $well = ($back ? StepState::Undone : StepState::Done)->value;
        $rows = $plain = [];
        foreach (array_keys($steps) as $position) {
            $result =
                $results[$position]
                ?? Result::refused('Nothing is known of what came of this step. Look at it, then try again.');
            if ($result->why === null && $result->step === null) {
                $plain[] = $position;
            } else {
                $rows[] = [
                    'p' => $position,
                    's' => $result->why === null ? $well : ($back ? StepState::Kept : StepState::Refused)->value,
                    'm' => $result->why,
                    'd' => $result->step?->toArray(),
                    'o' => $result->standsOn,
                ];
            }
        }
        if ($plain !== []) {
            DB::update(
                'update plan_steps set state = ?, message = null, stands_on = null where plan_id = ? '
                    .'and position between ? and ? and position = any(cast(? as integer[]))',
                [$well, $change->plan_id, min($plain), max($plain), Sql::ids($plain)],
            );
        }
        if ($rows !== []) {
            DB::update(
                <<<'SQL'
                update plan_steps t set state = v.s, message = v.m, detail = coalesce(v.d, t.detail), stands_on = v.o
                from jsonb_to_recordset(cast(? as jsonb)) as v(p integer, s text, m text, d jsonb, o bigint)
                where t.plan_id = ? and t.position = v.p
                SQL
                ,
                [BulkRows::json($rows), $change->plan_id],
            );
        }
    }

    private function refuseRest(Change $change, bool $back, string $why): void
    {
        $change
            ->steps()
            ->whereIn('state', $back ? [StepState::Done->value, StepState::Kept->value] : [StepState::Pending->value])
            ->update(['state' => ($back ? StepState::Kept : StepState::Refused)->value, 'message' => $why]);
    }

    private function finish(Change $change, bool $back, ?OpenSite $site): void
    {
        $site?->files->sweep($this->written($change));
        if ($back) {
            // What was stopped before its turn has nothing to take back.
            $change
                ->steps()
                ->where('state', StepState::Pending->value)
                ->update([
                    'state' => StepState::LeftOut->value,
                    'message' => 'It was not carried out: the change was stopped before, and rolled back.',
                ]);
        }
        $counts = $this->counts($change);
        $left = $back
            ? $counts[StepState::Kept->value] ?? 0
            : ($counts[StepState::Refused->value] ?? 0) + ($counts[StepState::LeftOut->value] ?? 0);
        $change->update(
            $back
                ? [
                    'state' => $left > 0 ? ChangeState::UndoneInPart : ChangeState::Undone,
                    'undone_at' => now(),
                    'counts' => $counts,
                    'followed_up' => false,
                ]
                : [
                    'state' => $left > 0 ? ChangeState::AppliedInPart : ChangeState::Applied,
                    'applied_at' => now(),
                    'counts' => $counts,
                    'followed_up' => false,
                ],
        );
        AfterChange::dispatch($change->id);
    }

    /** @return list<string> one path of each folder that the change writes files into */
    private function written(Change $change): array
    {
        $rows = DB::select(
            "select min(path) as path from plan_steps where plan_id = ? and kind = 'write-file' "
                ."group by regexp_replace(path, '[^/]*$', '')",
            [$change->plan_id],
        );

        return array_values(array_map(static fn (stdClass $row): string => (string) $row->path, $rows));
    }

    /** @return array<string, int> */
    private function counts(Change $change): array
    {
        $counts = array_intersect_key($change->counts, ['pages' => true]);
        $states = DB::table('plan_steps')
            ->where('plan_id', $change->plan_id)
            ->groupBy('state')
            ->selectRaw('state, count(*) as count')
            ->get();
        foreach ($states as $row) {
            $counts[(string) $row->state] = (int) $row->count;
        }

        return $counts;
    }

    /** @return array<string, string> promise → id, of what was made before this process came */
    private function made(Change $change): array
    {
        $made = [];
        $entries = $change
            ->steps()
            ->where('kind', StepKind::AddMedia->value)
            ->where('state', StepState::Done->value)
            ->get();
        foreach ($entries as $row) {
            $step = $row->step();
            if ($step instanceof AddMedia && $step->row !== null) {
                $made[$step->promise] = $step->row->id;
            }
        }

        return $made;
    }
}
