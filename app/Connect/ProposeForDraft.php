<?php

declare(strict_types=1);

namespace App\Connect;

use App\Models\Draft;
use App\Support\WorkLock;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;
use Ylema\Connect\Question;
use Ylema\Failure;

/** Works out the field map of a site that is being connected, beside the person who waits for it. */
final class ProposeForDraft implements ShouldQueue
{
    use Queueable;

    public int $tries = 1;

    public int $timeout = 1800;

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

    /** A worker that was killed lets go of its lock, and says nothing: whoever looks at the draft says it instead. */
    public static function giveUp(Draft $draft): void
    {
        if (
            $draft->state === 'proposing'
            && $draft->begun_at !== null
            && WorkLock::isFree(WorkLock::DRAFT, $draft->id)
            // It may have ended well between the two looks.
            && $draft->refresh()->state === 'proposing'
        ) {
            $draft->update([
                'state' => 'failed',
                'problem' => 'The process that worked the map out was ended before it was done. Ask for it again.',
            ]);
        }
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
