<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Changes\Verification;
use App\Console\ExitCode;
use App\Models\Site;
use App\Redirects\RedirectChecker;
use App\Redirects\RedirectList;
use Symfony\Component\Console\Output\OutputInterface;
use Ylema\Redirects\Format;
use Ylema\Redirects\Verdict;

final class RedirectsCommand extends Command implements AsksTheIndex
{
    use FindsSites;

    protected $signature = 'ylema:redirects {site : its short name} {--as=csv : nginx, apache, csv or json}
        {--former : what the web server of the former address needs, in place of the site\'s own list}
        {--check : ask the old addresses instead, and say what is wrong (exit code 1 where something is)}';

    protected $description = 'The addresses whose visitors are sent on, in a form for the web server';

    public function handle(RedirectChecker $checker, Verification $verification): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        if ($this->option('check')) {
            $counts = $checker->check($site);
            $verification->askAgain($site);

            return $this->say($site, $counts);
        }
        $as = $this->option('as');
        $format = Format::tryFrom(is_string($as) ? $as : '');
        if ($format === null) {
            $this->error('Say --as with one of: '.implode(', ', array_column(Format::cases(), 'value')).'.');

            return ExitCode::WRONG;
        }
        $list = new RedirectList($site);
        $isFormer = $this->option('former') === true;
        $former = $site->addresses()->former();
        if ($isFormer && $former === []) {
            $this->error('This site has no former address.');

            return ExitCode::WRONG;
        }
        $pieces = $format->write(
            $isFormer ? $list->ofFormer() : $list->entries(),
            $isFormer ? $former[0]->path : $site->addresses()->now->path,
        );
        foreach ($pieces as $piece) {
            $this->output->write($piece, false, OutputInterface::OUTPUT_RAW);
        }

        return self::SUCCESS;
    }

    /** @param  array<string, int>  $counts */
    private function say(Site $site, array $counts): int
    {
        $left = $counts[RedirectChecker::LEFT_OUT] ?? 0;
        unset($counts[RedirectChecker::LEFT_OUT]);
        $list = new RedirectList($site);
        $wrong = array_sum($counts) - ($counts[Verdict::Right->value] ?? 0);
        for ($offset = 0; $offset < $wrong; $offset += 500) {
            foreach ($list->page('', $offset, 500)['redirects'] as $redirect) {
                if ($redirect['verdict'] !== null && $redirect['verdict'] !== Verdict::Right->value) {
                    $this->line(sprintf('%-8s /%s  %s', $redirect['verdict'], $redirect['from'], $redirect['words']));
                }
            }
        }
        $this->line(
            $wrong === 0
                ? array_sum($counts).' redirects lead where they should.'
                : "$wrong of ".array_sum($counts).' redirects do not lead where they should.',
        );

        if ($left > 0) {
            $this->error("The other $left of the list were not asked: one check ends after so many.");
        }

        return match ($wrong) {
            0 => $left > 0 ? ExitCode::NOT_LOOKED : ExitCode::DONE,
            // Nobody answered, which says nothing of where they lead.
            $counts[Verdict::Unknown->value] ?? 0 => ExitCode::NOT_LOOKED,
            default => ExitCode::NO,
        };
    }
}
