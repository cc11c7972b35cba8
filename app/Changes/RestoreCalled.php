<?php

declare(strict_types=1);

namespace App\Changes;

use App\Models\Site;
use App\Plans\PlanDesk;
use App\Plans\PlanRefused;
use App\Retire\Keeping;
use Illuminate\Support\Facades\DB;
use Ylema\Plan\RestingQuestion;
use Ylema\Retire\RestorePlanner;
use Ylema\Retire\RestoreRequest;

/** Brings back what something asks for, where the site's owner wants that to happen by itself. */
final readonly class RestoreCalled
{
    /** Minutes after which a called file that did not come back waits for somebody. */
    private const PATIENCE = 30;

    public function __construct(private PlanDesk $desk, private Journal $journal)
    {
    }

    /** @return int how many files were asked for */
    public function run(Site $site): int
    {
        if (! Keeping::of($site)->restores) {
            return 0;
        }
        $ids = array_map(
            static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0,
            DB::table('resting_files')
                ->where('site_id', $site->id)
                ->where('called_at', '>', now()->subMinutes(self::PATIENCE))
                ->limit(1000)
                ->pluck('id')
                ->all(),
        );
        if ($ids === []) {
            return 0;
        }
        try {
            $planner = new RestorePlanner(new RestoreRequest(new RestingQuestion(array_values($ids))));
            $this->journal->apply($this->desk->make($site, $planner, null), null, 'Something asked for it.');
        } catch (PlanRefused) {
            // The lane shows it, and what keeps it from coming back.
            return 0;
        }

        return count($ids);
    }
}
