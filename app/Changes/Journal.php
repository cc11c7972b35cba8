<?php

declare(strict_types=1);

namespace App\Changes;

use App\Jobs\ApplyChange;
use App\Jobs\RefreshAndVerify;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\ChangeWrite;
use App\Models\Plan;
use App\Models\User;
use App\Sites\OpenSite;
use App\Sites\SiteOpener;
use Illuminate\Support\Facades\DB;
use Ylema\Sites\FileMissing;
use Ylema\Sites\NewMedia;
use Ylema\Sites\RecordChanged;
use Ylema\Sites\SourceUnavailable;

/**
 * Applies plans and undoes changes. A journal row stands before the first write, and each write says of itself
 * whether it is done, so that a killed process is finished by the next one that comes.
 */
final readonly class Journal
{
    /** The key space of PostgreSQL's advisory locks that marks "a process is working on this change". */
    private const LOCK_SPACE = 0x594C;

    public function __construct(private SiteOpener $opener, private Vault $vault)
    {
    }

    /** @throws PlanRefused when it was applied or dropped already */
    public function apply(Plan $plan, ?User $by, string $reason): Change
    {
        $change = DB::transaction(function () use ($plan, $by, $reason): Change {
            $plan = Plan::query()->lockForUpdate()->findOrFail($plan->id);
            if ($plan->state !== 'open') {
                throw new PlanRefused($plan->state === 'applied' ? 'This plan is applied already. Its change is in the journal.' : 'This plan was dropped for a newer one. Open that one.');
            }
            if (! $plan->writes()->whereNull('problem')->exists()) {
                throw new PlanRefused('None of the writes of this plan can be made. The list says why for each; plan again after that is mended.');
            }
            $change = Change::query()->create(['site_id' => $plan->site_id, 'plan_id' => $plan->id, 'state' => ChangeState::Applying, 'title' => $plan->title, 'reason' => $reason, 'summary' => $plan->summary, 'applied_by' => $by?->id]);
            foreach ($plan->writes()->orderBy('position')->get() as $write) {
                $change->writes()->create([
                    ...$write->only(['position', 'target', 'record_kind', 'record_key', 'title', 'before_hash', 'after_hash', 'detail']),
                    'state' => $write->problem === null ? 'pending' : 'refused', 'message' => $write->problem,
                ]);
            }
            $plan->update(['state' => 'applied']);

            return $change;
        });
        ApplyChange::dispatch($change->id);

        return $change;
    }

    /** @throws PlanRefused when there is nothing to undo */
    public function undo(Change $change, ?User $by): Change
    {
        DB::transaction(function () use ($change, $by): void {
            $locked = Change::query()->lockForUpdate()->findOrFail($change->id);
            if (! in_array($locked->state, [ChangeState::Applied, ChangeState::AppliedInPart, ChangeState::UndoneInPart], true)) {
                throw new PlanRefused($locked->state->isRunning() ? 'This change is being worked on. Wait until it is finished.' : 'This change is undone already.');
            }
            $locked->update(['state' => ChangeState::Undoing, 'undone_by' => $by?->id, 'verification' => null]);
        });
        ApplyChange::dispatch($change->id);

        return $change->refresh();
    }

    /** Does what is left to do of a change, forward or back. Only one process at a time works on it. */
    public function work(Change $change): void
    {
        if (! $this->lock($change)) {
            return;
        }
        try {
            $change->refresh();
            if ($change->state === ChangeState::Applying) {
                $this->forward($change);
            } elseif ($change->state === ChangeState::Undoing) {
                $this->back($change);
            }
        } finally {
            DB::selectOne('select pg_advisory_unlock(?, ?)', [self::LOCK_SPACE, $change->id]);
        }
    }

    /** @return int how many changes were found in the middle and finished */
    public function recover(): int
    {
        $count = 0;
        foreach (Change::query()->whereIn('state', [ChangeState::Applying, ChangeState::Undoing])->orderBy('id')->get() as $change) {
            try {
                $before = $change->state;
                $this->work($change);
                $count += $change->refresh()->state !== $before ? 1 : 0;
            } catch (SourceUnavailable $e) {
                // The journal keeps it; the next recovery tries again.
                report($e);
            }
        }

        return $count;
    }

    /** A session lock: PostgreSQL lets go of it by itself when the process that held it is killed. */
    private function lock(Change $change): bool
    {
        $row = DB::selectOne('select pg_try_advisory_lock(?, ?) as got', [self::LOCK_SPACE, $change->id]);

        return is_object($row) && ($row->got ?? false) === true;
    }

    private function forward(Change $change): void
    {
        $site = $this->opener->open($change->site);
        foreach ($change->writes()->where('state', 'pending')->orderBy('position')->get() as $write) {
            [$state, $message] = $this->write($site, $write);
            $write->update(['state' => $state, 'message' => $message]);
        }
        $refused = $change->writes()->where('state', 'refused')->count();
        $change->update(['state' => $refused > 0 ? ChangeState::AppliedInPart : ChangeState::Applied, 'applied_at' => now()]);
        RefreshAndVerify::dispatch($change->id);
    }

    private function back(Change $change): void
    {
        $site = $this->opener->open($change->site);
        // The other way round: what was made last goes first.
        foreach ($change->writes()->orderByDesc('position')->whereIn('state', ['written', 'kept'])->get() as $write) {
            [$state, $message] = $this->unwrite($site, $write);
            $write->update(['state' => $state, 'message' => $message]);
        }
        $kept = $change->writes()->where('state', 'kept')->count();
        $change->update(['state' => $kept > 0 ? ChangeState::UndoneInPart : ChangeState::Undone, 'undone_at' => now()]);
        RefreshAndVerify::dispatch($change->id);
    }

    /** @return array{string, string|null} state and message */
    private function write(OpenSite $site, ChangeWrite $write): array
    {
        return match ($write->target) {
            'record' => $this->record($site, $write, 'before', 'after', ['written', 'refused']),
            'file' => $this->file($site, $write, self::hash($write->before_hash), self::hash($write->after_hash), ['written', 'refused']),
            default => $this->addMedia($site, $write),
        };
    }

    /** @return array{string, string|null} */
    private function unwrite(OpenSite $site, ChangeWrite $write): array
    {
        return match ($write->target) {
            'record' => $this->record($site, $write, 'after', 'before', ['undone', 'kept']),
            'file' => $this->file($site, $write, self::hash($write->after_hash), self::hash($write->before_hash), ['undone', 'kept']),
            default => $this->removeMedia($site, $write),
        };
    }

    /**
     * @param  'before'|'after'  $from
     * @param  'before'|'after'  $to
     * @param  array{string, string}  $states when done, when refused
     * @return array{string, string|null}
     */
    private function record(OpenSite $site, ChangeWrite $write, string $from, string $to, array $states): array
    {
        [$kind, $key] = [(string) $write->record_kind, (string) $write->record_key];
        $expected = (string) self::hash($from === 'before' ? $write->before_hash : $write->after_hash);
        $wanted = self::hash($to === 'after' ? $write->after_hash : $write->before_hash);
        $texts = [];
        /** @var array<string, array{before: string, after: string}> $fields */
        $fields = $write->detail['fields'] ?? [];
        foreach ($fields as $name => $field) {
            $texts[$name] = $this->vault->get($field[$to]);
        }
        try {
            $site->content->replace($kind, $key, $expected, $texts);

            return [$states[0], null];
        } catch (RecordChanged $e) {
            // A process that was killed after the write but before saying so left exactly what is wanted.
            foreach ($site->content->find($kind, [$key]) as $record) {
                if ($record->contentHash === $wanted) {
                    return [$states[0], null];
                }
            }

            return [$states[1], $states[1] === 'kept'
                ? "The $kind \"{$write->title}\" was changed by someone else after this change, so undo left it as it is. Its text of before is kept in the journal."
                : $e->getMessage()];
        }
    }

    /**
     * @param  array{string, string}  $states
     * @return array{string, string|null}
     */
    private function file(OpenSite $site, ChangeWrite $write, ?string $expected, ?string $wanted, array $states): array
    {
        $path = (string) ($write->detail['path'] ?? '');
        try {
            $now = hash('sha256', $site->files->read($path));
        } catch (FileMissing) {
            $now = null;
        }
        if ($now === $wanted) {
            return [$states[0], null];
        }
        if ($now !== $expected) {
            return [$states[1], "The file $path was replaced by someone else meanwhile, so it was left as it is."];
        }
        if ($wanted === null) {
            $site->files->delete($path);
        } else {
            $site->files->write($path, $this->vault->get($wanted));
        }

        return [$states[0], null];
    }

    /** @return array{string, string|null} */
    private function addMedia(OpenSite $site, ChangeWrite $write): array
    {
        /** @var array{id: string, path: string, title: string, alt: string, width: int|null, height: int|null, renditions: list<array{path: string, width: int, height: int}>} $row */
        $row = $write->detail['media'];
        if (! $site->content->hasMedia($row['id'])) {
            $site->content->addMedia(new NewMedia(...$row));
        }

        return ['written', null];
    }

    /** @return array{string, string|null} */
    private function removeMedia(OpenSite $site, ChangeWrite $write): array
    {
        /** @var array{id: string} $row */
        $row = $write->detail['media'];
        $site->content->removeMedia($row['id']);

        return ['undone', null];
    }

    private static function hash(?string $column): ?string
    {
        return $column === null ? null : trim($column);
    }
}
