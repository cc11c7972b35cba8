<?php

declare(strict_types=1);

/*
 * A worker that is killed right before its n-th call that changes something (KILL_AT; 0 for never). One that comes to
 * its end says how many there were.
 */

use App\Changes\Recovery;
use App\Plans\Planners;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\Queue;
use Tests\App\Kill\AllKindsPlanner;
use Tests\App\Kill\Moments;

require __DIR__.'/../../../vendor/autoload.php';

Moments::watch((int) getenv('KILL_AT'));
$app = require __DIR__.'/../../../bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();
app(Planners::class)->add(AllKindsPlanner::class);
Queue::fake();
Moments::watchDatabase();
Moments::$count = 0;
app(Recovery::class)->run();
echo Moments::$count;
