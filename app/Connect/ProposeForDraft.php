<?php

declare(strict_types=1);

namespace App\Connect;

use App\Models\Draft;
use App\Support\Clock;
use App\Support\WorkLock;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Illuminate\Support\Facades\DB;
use Throwable;
use Ylema\Connect\Question;
use Ylema\Failure;

/** Works out the field map of a site that is being connected, beside the person who waits for it. */
final class ProposeForDraft implements ShouldQueue
{
    use Queueable;

    public int $tries = 1;

    public int $timeout = 1800;

    /** Seconds in which a worker that took the job must have begun. */
    private const SILENT = 30;

    public function __construct(public readonly int $draftId)
    {
    }

    public function handle(Connector $connector): void
    {
        $draft = Draft::query()->find($this->draftId);
        $lock = WorkLock::take(WorkLock::DRAFT, $this->draftId);
        if ($draft === null || $lock === null) {
            return;
        }
        $draft->update(['begun_at' => now()]);
        try {
            $settings = Settings::fromArray($draft->said, '/');
            $proposal = $connector->proposal($connector->draft($settings), $draft->answers);
            $draft->update([
                'state' => 'proposed',
                'problem' => null,
                'field_map' => $connector->yaml($proposal),
                'proposal' => [
                    'evidence' => $proposal->evidence,
                    'questions' => array_map(
                        static fn (Question $q): array => [
                            'id' => $q->id,
                            'words' => $q->words,
                            // As a list, since the database orders the keys of an object in its own way.
                            'answers' => array_map(
                                static fn (string $id, string $words): array => ['id' => $id, 'words' => $words],
                                array_map(strval(...), array_keys($q->answers)),
                                array_values($q->answers),
                            ),
                            'samples' => array_map(
                                static fn (string $s): string => mb_strimwidth(mb_scrub($s), 0, 60, '…'),
                                array_slice($q->samples, 0, 5),
                            ),
                        ],
                        $proposal->questions,
                    ),
                    'left_out' => $proposal->leftOut,
                    'former' => $proposal->former,
                    'aliases' => $proposal->aliases,
                ],
            ]);
        } catch (Throwable $e) {
            $this->failed($e);
        } finally {
            $lock->release();
        }
    }

    /** What killed workers left, looked for each minute. @return int how many proposals came to no end */
    public static function recover(): int
    {
        return Draft::query()
            ->where('state', 'proposing')
            ->get()
            ->filter(static fn (Draft $draft): bool => self::giveUp($draft))
            ->count();
    }

    /**
     * A worker that was killed lets go of its lock, and says nothing: whoever looks at the draft says it instead. One
     * that was killed before it began at all left a job that nobody takes any more.
     */
    public static function giveUp(Draft $draft): bool
    {
        if (
            $draft->state !== 'proposing'
            || ! WorkLock::isFree(WorkLock::DRAFT, $draft->id)
            || ($draft->begun_at === null && (! Clock::isPast($draft->updated_at, self::SILENT)
                || self::waits($draft)))
            // It may have ended well between the two looks.
            || $draft->refresh()->state !== 'proposing'
        ) {
            return false;
        }
        $draft->update([
            'state' => 'failed',
            'problem' => 'The process that worked the map out was ended before it was done. Ask for it again.',
        ]);

        return true;
    }

    /** Whether a worker will still come to it. */
    private static function waits(Draft $draft): bool
    {
        return DB::table('jobs')
            ->whereNull('reserved_at')
            ->where('payload', 'like', '%ProposeForDraft%')
            ->where('payload', 'like', '%draftId%i:'.$draft->id.';%')
            ->exists();
    }

    /** Also where the queue gives up on it. */
    public function failed(?Throwable $why): void
    {
        Draft::query()
            ->whereKey($this->draftId)
            ->where('state', 'proposing')
            ->update([
                'state' => 'failed',
                'problem' => $why instanceof Failure
                        ? $why->getMessage()
                        : 'The map could not be worked out. It was written to the log; try again.',
            ]);
        if ($why !== null && ! $why instanceof Failure) {
            report($why);
        }
    }
}
