<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Usage\Findings;
use App\Usage\SiteFigures;
use Ylema\Addresses\OutcomeKind;

final class FindingsCommand extends Command implements AsksTheIndex
{
    use FindsSites;

    protected $signature = 'ylema:findings {site : its short name} {--family= : only this one}
        {--ndjson : every finding, one a line as json}';

    protected $description = 'Say what does not lead where it should (exit code 1 when there is something)';

    public function handle(SiteFigures $figures): int
    {
        $site = $this->site();
        $family = $this->option('family');
        $kind = is_string($family) ? OutcomeKind::tryFrom($family) : null;
        if ($site === null) {
            return ExitCode::WRONG;
        }
        if (is_string($family) && $kind?->isFinding() !== true) {
            $known = implode(', ', array_column(OutcomeKind::findings(), 'value'));
            $this->error("There is no family \"$family\". Known: $known.");

            return ExitCode::WRONG;
        }
        $kinds = $kind === null ? OutcomeKind::findings() : [$kind];
        if ($this->option('ndjson')) {
            $any = false;
            foreach (Findings::each($site, $kinds) as $finding) {
                $any = true;
                $this->line(
                    (string) json_encode(
                        $finding,
                        JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
                    ),
                );
            }

            return $any ? 1 : 0;
        }
        $families = array_values(
            array_filter(
                $figures->families($site),
                static fn (array $f): bool => $kind === null || $f['cause'] === $kind->value,
            ),
        );
        foreach ($families as $f) {
            $this->line(
                sprintf('%-18s %7d references on %d public pages, %d of them sure', $f['cause'], $f['references'],
                    $f['pages'], $f['sure']),
            );
        }
        if ($families === []) {
            $this->line('Every reference leads where it should.');
        }

        return $families === [] ? ExitCode::DONE : ExitCode::NO;
    }
}
