<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Changes\Journal;
use App\Plans\PlanDesk;
use Ylema\Plan\RestingQuestion;
use Ylema\Retire\ArchivePlanner;

final class ArchiveCommand extends Command
{
    use CarriesOut;
    use FindsSites;

    protected $signature = 'ylema:archive {site : its short name} {--dry-run : only say what it would do}';

    protected $description = 'Send files whose days of rest are over into a bag of the archive (BagIt, RFC 8493)';

    public function handle(PlanDesk $desk, Journal $journal): int
    {
        $site = $this->site();

        return $site === null
            ? 2
            : $this->carryOut(
                $site,
                new ArchivePlanner(new RestingQuestion(over: now()->toDateString())),
                $desk,
                $journal,
            );
    }
}
