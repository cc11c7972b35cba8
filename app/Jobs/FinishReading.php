<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Reading;
use App\Reading\ReadSite;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

final class FinishReading implements ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    public int $timeout = 600;

    public function __construct(public readonly int $readingId)
    {
    }

    public function handle(ReadSite $readSite): void
    {
        $readSite->finish(Reading::query()->findOrFail($this->readingId));
    }

    public function failed(?Throwable $why): void
    {
        app(ReadSite::class)->fail(Reading::query()->findOrFail($this->readingId), $why ?? new \RuntimeException('The landing was cut off.'));
    }
}
