<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\Reading;
use Illuminate\Contracts\Queue\ShouldBeUniqueUntilProcessing;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/** Lists a site and cuts the reading into chunks. */
final class PrepareReading implements ShouldBeUniqueUntilProcessing, ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    public int $timeout = 3600;

    /** Seconds after which a queued job counts as lost. */
    public int $uniqueFor = 600;

    public function __construct(public readonly int $readingId)
    {
    }

    /** However often it is asked for, one waits. */
    public function uniqueId(): string
    {
        return (string) $this->readingId;
    }

    public function handle(ReadSite $readSite): void
    {
        $reading = Reading::query()->with('site')->find($this->readingId);
        if ($reading === null) {
            return;
        }
        try {
            $readSite->prepare($reading);
        } catch (Throwable $e) {
            $readSite->fail($reading->refresh(), $e);
        }
    }
}
