<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\ReadingChunk;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use RuntimeException;
use Throwable;

/** Reads one chunk of a site. */
final class ReadChunk implements ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    /** A large table beside the field map is searched by one job. */
    public int $timeout = 3600;

    /** @var list<int> seconds between tries, since a source may be restarting */
    public array $backoff = [1, 4];

    public function __construct(public readonly int $chunkId)
    {
    }

    public function handle(ReadSite $readSite): void
    {
        $chunk = ReadingChunk::query()->find($this->chunkId);
        if ($chunk !== null) {
            $readSite->chunk($chunk);
        }
    }

    public function failed(?Throwable $why): void
    {
        $reading = ReadingChunk::query()->with('reading')->find($this->chunkId)?->reading;
        if ($reading !== null) {
            app(ReadSite::class)->fail($reading, $why ?? new RuntimeException('a chunk was cut off'));
        }
    }
}
