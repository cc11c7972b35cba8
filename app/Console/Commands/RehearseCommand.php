<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\Plan;
use App\Plans\Rehearsal;
use App\Sites\SiteOpener;
use Illuminate\Console\Command;
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

            return 2;
        }
        try {
            foreach ($rehearsal->of($opener->open($plan->site), $plan) as $line) {
                $this->output->writeln($line, $this->output::OUTPUT_RAW);
            }
        } catch (Failure $e) {
            $this->error($e->getMessage());

            return self::FAILURE;
        }

        return self::SUCCESS;
    }
}
