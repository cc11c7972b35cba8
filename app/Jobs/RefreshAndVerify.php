<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Changes\Verification;
use App\Models\Change;
use App\Reading\AlreadyReading;
use App\Reading\RefreshIndex;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** After a change: reads again what it wrote, then looks at the public pages. */
final class RefreshAndVerify implements ShouldQueue
{
    use Queueable;

    public int $tries = 60;

    public int $timeout = 600;

    public function __construct(public readonly int $changeId)
    {
    }

    public function handle(RefreshIndex $refresh, Verification $verification): void
    {
        $change = Change::query()->findOrFail($this->changeId);
        $records = $paths = [];
        $media = false;
        foreach ($change->writes()->whereIn('state', ['written', 'undone'])->get() as $write) {
            if ($write->target === 'record') {
                $records[(string) $write->record_kind][] = (string) $write->record_key;
            } elseif ($write->target === 'file') {
                $paths[] = $write->title;
            } else {
                $media = true;
            }
        }
        try {
            $refresh->refresh($change->site, $records, $paths, $media);
        } catch (AlreadyReading) {
            // The reading that runs may have passed these records before they changed, so wait for it.
            $this->release(3);

            return;
        }
        $verification->look($change);
    }
}
