<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Connect\ConnectionTest;
use App\Connect\Finding;
use App\Console\ExitCode;

final class CheckCommand extends Command
{
    use FindsSites;

    protected $signature = 'ylema:check
        {site : its short name}
        {--writes : try writing as well; all of it is taken back}
        {--json : as json}';

    protected $description = 'Test the connection of a site and hold its field map against it';

    public function handle(ConnectionTest $test): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        $found = $test->of($site, $this->option('writes') === true);
        if ($this->option('json') === true) {
            $this->line(
                (string) json_encode($found, JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE),
            );
        } else {
            foreach ($found as $finding) {
                $this->line(
                    sprintf('  %-6s %s: %s', $finding->isGood ? 'ok' : 'wrong', $finding->what, $finding->words),
                );
            }
        }

        $wrong = array_filter($found, static fn (Finding $f): bool => ! $f->isGood);

        return $wrong === [] ? ExitCode::DONE : ExitCode::NOT_LOOKED;
    }
}
