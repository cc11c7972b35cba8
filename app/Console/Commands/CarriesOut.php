<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Changes\Journal;
use App\Console\ExitCode;
use App\Models\Site;
use App\Plans\PlanDesk;
use Ylema\Failure;
use Ylema\Plan\Planner;

/** Makes a plan, says what it does, and applies it unless it shall only be looked at. */
trait CarriesOut
{
    private function carryOut(Site $site, Planner $planner, PlanDesk $desk, Journal $journal): int
    {
        try {
            $plan = $desk->make($site, $planner, null);
            $this->line($plan->title);
            $this->line($plan->sentence);
            foreach ($plan->outline['notes'] ?? [] as $note) {
                $this->line("  $note");
            }
            if ($this->option('dry-run')) {
                $desk->drop($plan);

                return self::SUCCESS;
            }
            $change = $journal->finish($journal->apply($plan, null, ''));
        } catch (Failure $e) {
            return $this->refused($e);
        }
        $this->line("Change {$change->id} is {$change->state->value}. bin/ylema undo {$change->id} puts it back.");
        $left = ($change->counts['left-out'] ?? 0) + ($change->counts['refused'] ?? 0);

        return $left > 0 ? ExitCode::LEFT : ExitCode::DONE;
    }
}
