<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Changes\Journal;
use App\Console\ExitCode;
use App\Plans\PlanDesk;
use Ylema\Addresses\OutcomeKind;
use Ylema\Repair\RepairPlanner;
use Ylema\Repair\RepairRequest;

final class RepairCommand extends Command implements AsksTheIndex
{
    use CarriesOut;
    use FindsSites;

    protected $signature = 'ylema:repair {site : its short name} {--sure : all that has one answer}
        {--family=* : only these} {--dry-run : make and show the plan, apply nothing}';

    protected $description = 'Mend what does not lead where it should (exit code 4 when some steps were left out)';

    public function handle(PlanDesk $desk, Journal $journal): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        if ($this->option('sure') !== true) {
            $this->error('Say --sure to mend all that has one answer. What is open is decided in the browser.');

            return ExitCode::WRONG;
        }
        $kinds = [];
        foreach ((array) $this->option('family') as $family) {
            $kind = OutcomeKind::tryFrom((string) $family);
            if ($kind?->isFinding() !== true) {
                $this->error("There is no family \"$family\"; bin/ylema findings lists them.");

                return ExitCode::WRONG;
            }
            $kinds[] = $kind;
        }
        $request = new RepairRequest($kinds === [] ? OutcomeKind::findings() : $kinds);

        return $this->carryOut($site, new RepairPlanner($request), $desk, $journal);
    }
}
