<?php

declare(strict_types=1);

namespace App\Adopt;

use App\Models\Adoption;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/** Fetches for a while, and hands on what is left, so that nothing else waits for long. */
final class WorkOnAdoption implements ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    public int $timeout = 1800;

    public function __construct(public readonly int $adoptionId)
    {
    }

    public function handle(Fetcher $fetcher): void
    {
        $adoption = Adoption::query()->with('site')->find($this->adoptionId);
        if ($adoption !== null && $fetcher->work($adoption)) {
            self::dispatch($adoption->id);
        }
    }

    public function failed(?Throwable $why): void
    {
        Adoption::halt(
            $this->adoptionId,
            'The fetching stopped on an error of its own: '
            .mb_strcut($why?->getMessage() ?? 'the worker was cut off', 0, 500)
            .' What was fetched is kept; ask for the rest again.',
        );
    }
}
