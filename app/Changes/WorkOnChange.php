<?php

declare(strict_types=1);

namespace App\Changes;

use App\Models\Change;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Works on a change until it is finished, forward or back. Running it again is safe. */
final class WorkOnChange implements ShouldQueue
{
    use Queueable;

    public int $tries = 10;

    public int $timeout = 3600;

    /** @var list<int> */
    public array $backoff = [2, 5, 15, 30];

    public function __construct(public readonly int $changeId)
    {
    }

    public function handle(Journal $journal): void
    {
        $change = Change::query()->find($this->changeId);
        if ($change !== null) {
            $journal->work($change);
        }
    }
}
