<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\Reading;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use RuntimeException;
use Throwable;

/** Brings a reading whose chunks are all read into the index. */
final class FinishReading implements ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    public int $timeout = 3600;

    public function __construct(public readonly int $readingId)
    {
    }

    public function handle(ReadSite $readSite): void
    {
        $reading = Reading::query()->with('site')->find($this->readingId);
        if ($reading !== null) {
            $readSite->finish($reading);
        }
    }

    public function failed(?Throwable $why): void
    {
        $reading = Reading::query()->find($this->readingId);
        if ($reading !== null) {
            app(ReadSite::class)->fail($reading, $why ?? new RuntimeException('the landing was cut off'));
        }
    }
}
