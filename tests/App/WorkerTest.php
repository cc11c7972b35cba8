<?php

declare(strict_types=1);

use Illuminate\Queue\Events\JobProcessing;
use Illuminate\Queue\Events\Looping;
use Illuminate\Queue\Jobs\SyncJob;

it('lets go of what a job left in cycles, and does nothing while it waits for one', function (): void {
    $gone = new ArrayObject();
    $leave = static function () use ($gone): void {
        $left = new class($gone)
        {
            public ?object $self = null;

            public function __construct(private readonly ArrayObject $gone)
            {
            }

            public function __destruct()
            {
                $this->gone->append(true);
            }
        };
        $left->self = $left;
    };
    // Laying out the demo has worked already.
    event(new Looping('database', 'default'));
    $leave();
    event(new Looping('database', 'default'));
    expect($gone)->toHaveCount(0);
    event(new JobProcessing('database', new SyncJob(app(), '{}', 'database', 'default')));
    event(new Looping('database', 'default'));
    expect($gone)->toHaveCount(1);
});
