<?php

declare(strict_types=1);

/*
 * A worker that is killed right before its n-th call that changes something (KILL_AT; 0 for never). One that comes to
 * its end says how many there were. What it does is KILL_DO: to take changes up, and what follows them; or a plan.
 */

use App\Changes\Recovery;
use App\Media\Uploads;
use App\Models\Plan;
use App\Models\Site;
use App\Plans\PlanDesk;
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
[$do, $what] = [...explode(' ', (string) getenv('KILL_DO')), ''];
if ($do === 'changes') {
    Queue::fake();
}
Moments::watchDatabase();
Moments::$count = 0;
match ($do) {
    'changes', 'refresh' => app(Recovery::class)->run(),
    'plan' => app(PlanDesk::class)->work(Plan::query()->findOrFail((int) $what)),
    'upload' => app(Uploads::class)->keep((string) file_get_contents($what), 'x.jpg', Site::query()->firstOrFail()),
};
echo Moments::$count;
