<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Models\Record;
use App\Models\Site;
use App\Models\WorkState;
use App\Survey\SurveyReport;
use App\Survey\Surveys;
use Ylema\Failure;
use Ylema\Plan\Words;

final class SurveyCommand extends Command
{
    use FindsSites;

    protected $signature = 'ylema:survey {site : its short name} {--page=* : only the page at this address}
        {--deep : look at the pages in a browser, too} {--detach : do not wait for the end}
        {--json : the report as json}';

    protected $description = 'Ask the public site what visitors get (exit code 1 where something does not load)';

    public function handle(Surveys $surveys): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        $pages = $this->pages($site);
        if ($pages === []) {
            return ExitCode::WRONG;
        }
        try {
            $survey = $surveys->begin($site, null, $pages, $this->option('deep') === true);
        } catch (Failure $e) {
            $this->error($e->getMessage());

            return 3;
        }
        if ($this->option('detach')) {
            return self::SUCCESS;
        }
        $said = '';
        do {
            usleep(300_000);
            $survey->refresh();
            $now =
                "{$survey->total('pages')} pages, {$survey->total('media')} pictures and other files, "
                ."{$survey->total('links')} links";
            if (! $this->option('json') && $now !== $said && $survey->total('pages') > 0) {
                $this->progress($said = $now);
            }
        } while ($survey->state->isOpen());
        $report = new SurveyReport($site);
        if ($this->option('json')) {
            $this->line(
                (string) json_encode(
                    [
                        'state' => $survey->state->value,
                        'problem' => $survey->problem,
                        'totals' => $survey->totals,
                        ...$report->figures(),
                    ],
                    JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
                ),
            );
        } else {
            $this->line($survey->problem ?? $report->sentence());
            foreach ($report->failing(0, 20)['rows'] as $row) {
                $this->line("  {$row['url']}  {$row['why']}  on ".Words::many($row['pages'], 'page'));
            }
        }

        return match (true) {
            $survey->state !== WorkState::Done => ExitCode::NOT_LOOKED,
            default => $report->figures()['failing'] > 0 ? 1 : self::SUCCESS,
        };
    }

    /** @return list<int>|null null for all; none where one of them is no page */
    private function pages(Site $site): ?array
    {
        $asked = (array) $this->option('page');
        if ($asked === []) {
            return null;
        }
        $ids = [];
        foreach ($asked as $address) {
            $place = $site->addresses()->locate((string) $address);
            $page =
                $place?->path === null
                    ? null
                    : Record::query()
                        ->where('site_id', $site->id)
                        ->where('is_page', true)
                        ->whereRaw("rtrim(address, '/') = ?", [rtrim($place->path, '/')])
                        ->value('id');
            if (! is_int($page)) {
                $this->error("There is no page at $address.");

                return [];
            }
            $ids[] = $page;
        }

        return $ids;
    }
}
