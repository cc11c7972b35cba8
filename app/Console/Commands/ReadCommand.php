<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Models\ReadingState;
use App\Reading\AlreadyReading;
use App\Reading\ReadSite;

final class ReadCommand extends Command
{
    use FindsSites;

    protected $signature =
        'ylema:read {site : its short name} {--detach : do not wait for the end} {--json : the '.'totals as json}';

    protected $description = 'Read a site again (queue workers do the work)';

    public function handle(ReadSite $readSite): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        try {
            $reading = $readSite->begin($site, null);
        } catch (AlreadyReading $e) {
            $this->error($e->getMessage());

            return 3;
        }
        if ($this->option('detach')) {
            return self::SUCCESS;
        }
        $said = -1;
        do {
            usleep(300_000);
            $reading->refresh();
            $totals = $readSite->totals($reading);
            if (! $this->option('json') && $totals['done'] !== $said && $totals['chunks'] > 0) {
                $said = $totals['done'];
                $this->progress(
                    "{$totals['done']} of {$totals['chunks']} parts: {$totals['records']} records, {$totals['files']} "
                        .'files',
                );
            }
        } while ($reading->state->isOpen());
        if ($this->option('json')) {
            $this->line(
                (string) json_encode(
                    ['state' => $reading->state->value, 'problem' => $reading->problem, 'totals' => $reading->totals],
                    JSON_PRETTY_PRINT,
                ),
            );
        } else {
            $this->line(
                $reading->problem
                    ?? "Done: {$reading->totals['records']} records ({$reading->totals['changed']} changed), "
                        ."{$reading->totals['files']} files ({$reading->totals['changed_files']} changed), "
                        ."{$reading->totals['problems']} fields with something that could not be read.",
            );
        }

        return $reading->state === ReadingState::Done ? ExitCode::DONE : ExitCode::NOT_LOOKED;
    }
}
