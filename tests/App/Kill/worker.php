<?php

declare(strict_types=1);

/*
 * A worker that says when it is about to begin, so that whoever started it can kill it at a random moment of its work.
 */

use App\Changes\Recovery;
use App\Plans\Planners;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\Queue;
use Tests\App\Kill\AllKindsPlanner;

require __DIR__.'/../../../vendor/autoload.php';

$app = require __DIR__.'/../../../bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();
app(Planners::class)->add(AllKindsPlanner::class);
Queue::fake();
echo "ready\n";
app(Recovery::class)->run();
echo "done\n";
