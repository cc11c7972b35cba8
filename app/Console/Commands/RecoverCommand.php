<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Changes\Journal;
use Illuminate\Console\Command;

final class RecoverCommand extends Command
{
    protected $signature = 'ylema:recover';

    protected $description = 'Finish changes that a killed process left in the middle';

    public function handle(Journal $journal): int
    {
        $count = $journal->recover();
        $this->line($count === 0 ? 'No change was left in the middle.' : "$count change(s) were left in the middle and are finished now.");

        return self::SUCCESS;
    }
}
