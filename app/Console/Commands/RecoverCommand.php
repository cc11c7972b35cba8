<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Adopt\Adoptions;
use App\Bytes\Place;
use App\Changes\Recovery;
use App\Connect\ProposeForDraft;
use App\Console\ExitCode;
use App\Plans\PlanDesk;
use App\Reading\ReadSite;
use App\Support\Clock;
use App\Support\OwnDatabase;
use App\Survey\Surveys;
use Throwable;

final class RecoverCommand extends Command
{
    protected $signature = 'ylema:recover';

    protected $description = 'Take up what a killed process left in the middle: changes, plans, readings, surveys, '
        .'fetchings, proposals';

    public function handle(
        Recovery $changes,
        PlanDesk $plans,
        ReadSite $readings,
        Surveys $surveys,
        Adoptions $adoptions,
    ): int {
        $failed = false;
        $rows = [
            'change' => $changes->run(...),
            'plan' => $plans->recover(...),
            'reading' => $readings->recover(...),
            'survey' => $surveys->recover(...),
            'fetching' => $adoptions->recover(...),
            'proposal' => ProposeForDraft::recover(...),
            'half-written file' => self::sweep(...),
            'job of another time' => Clock::mendJobs(...),
        ];
        foreach ($rows as $word => $recover) {
            try {
                $count = $recover();
                $this->line(
                    $count === 0
                        ? "No $word was left in the middle."
                        : "$count $word".($count === 1 ? ' was' : 's were').' left in the middle and '
                            .($word === 'half-written file' ? 'taken away.' : 'taken up.'),
                );
            } catch (Throwable $e) {
                report($e);
                $said = OwnDatabase::says($e);
                $this->error($said ?? $e->getMessage());
                $failed = true;
                if ($said !== null) {
                    // The others would hear the same.
                    break;
                }
            }
        }

        return $failed ? ExitCode::NOT_LOOKED : ExitCode::DONE;
    }

    /** @return int how many beginnings of files went, of those that killed processes left in Ylema's own folders */
    private static function sweep(): int
    {
        return array_sum(array_map(static fn (Place $place): int => $place->sweep(), Place::all()));
    }
}
