<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Changes\Journal;
use App\Console\ExitCode;
use App\Plans\MoveAsked;
use App\Plans\PlanDesk;
use Ylema\Failure;
use Ylema\Move\MovePlanner;

final class MoveCommand extends Command implements AsksTheIndex
{
    use CarriesOut;
    use FindsSites;

    protected $signature = 'ylema:move {site : its short name}
        {from : a file or folder of the site, or a whole address} {to : where it goes}
        {--dry-run : only say what it would do} {--no-redirects : send nobody on from the old addresses}';

    protected $description = 'Move a file, folder or address, and all that names it (exit code 4: steps were left out)';

    public function handle(PlanDesk $desk, Journal $journal): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        try {
            $request = MoveAsked::of(
                $site,
                $this->word('from'),
                $this->word('to'),
                $this->option('no-redirects') !== true,
            );
        } catch (Failure $e) {
            $this->error($e->getMessage());

            return ExitCode::WRONG;
        }

        return $this->carryOut($site, new MovePlanner($request), $desk, $journal);
    }
}
