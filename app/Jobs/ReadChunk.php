<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\ReadingChunk;
use App\Reading\ReadSite;
use Illuminate\Bus\Batchable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

final class ReadChunk implements ShouldQueue
{
    use Batchable;
    use Queueable;

    public int $tries = 3;

    public int $timeout = 600;

    /** @var list<int> seconds between tries, since a source may be restarting */
    public array $backoff = [1, 4];

    public function __construct(public readonly int $chunkId)
    {
    }

    public function handle(ReadSite $readSite): void
    {
        if ($this->batch()?->cancelled() === true) {
            return;
        }
        $chunk = ReadingChunk::query()->find($this->chunkId);
        if ($chunk !== null) {
            $readSite->chunk($chunk);
        }
    }
}
