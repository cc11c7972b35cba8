<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Reading;
use App\Models\ReadingState;
use App\Reading\ReadSite;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

final class PrepareReading implements ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    public int $timeout = 600;

    public function __construct(public readonly int $readingId)
    {
    }

    public function handle(ReadSite $readSite): void
    {
        $reading = Reading::query()->findOrFail($this->readingId);
        if ($reading->state === ReadingState::Queued || $reading->batch_id === null) {
            try {
                $reading->state->isOpen() && $readSite->prepare($reading);
            } catch (Throwable $e) {
                $readSite->fail($reading, $e);
            }
        }
    }
}
