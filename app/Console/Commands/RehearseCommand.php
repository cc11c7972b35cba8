<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Models\Plan;
use App\Plans\Rehearsal;
use App\Sites\SiteOpener;
use Ylema\Failure;

final class RehearseCommand extends Command
{
    use FindsSites;

    protected $signature = 'ylema:rehearse {plan : its number}';

    protected $description = 'Say which statements and files a plan would write; nothing is written';

    public function handle(Rehearsal $rehearsal, SiteOpener $opener): int
    {
        $number = $this->word('plan');
        $plan = ctype_digit($number) ? Plan::query()->with('site')->find((int) $number) : null;
        if ($plan === null) {
            $this->error("There is no plan $number.");

            return ExitCode::WRONG;
        }
        try {
            foreach ($rehearsal->of($opener->open($plan->site), $plan) as $line) {
                $this->output->writeln($line, $this->output::OUTPUT_RAW);
            }
        } catch (Failure $e) {
            return $this->refused($e);
        }

        return self::SUCCESS;
    }
}
