<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Takeaway\MapTable;
use App\Takeaway\NoSuchPart;
use App\Takeaway\Sitemap;
use Symfony\Component\Console\Output\OutputInterface;

final class MapCommand extends Command implements AsksTheIndex
{
    use FindsSites;

    private const FORMS = ['ndjson', 'csv', 'sitemap', 'yaml'];

    protected $signature = 'ylema:map {site : its short name}
        {--as=ndjson : ndjson, csv, sitemap (XML, with images), or yaml for the field map}
        {--kind= : only records of this kind} {--standing= : only items that stand so}
        {--path= : only items whose path begins so} {--outcome= : only places of which the map says this}
        {--pages=100 : how many addresses of pages are said of each place}
        {--part=1 : which part of a sitemap, where there are more than 50,000 pages or 50 MB}';

    protected $description = 'Take out the map of a site: every place that refers to media, and where it is met';

    public function handle(): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        $form = $this->option('as');
        if (! is_string($form) || ! in_array($form, self::FORMS, true)) {
            $this->error('--as takes one of '.implode(', ', self::FORMS).'.');

            return ExitCode::WRONG;
        }
        $only = [];
        foreach (['kind', 'standing', 'path', 'outcome'] as $mark) {
            $said = $this->option($mark);
            $only[$mark] = is_string($said) && $said !== '' ? $said : null;
        }
        $table = new MapTable(
            $site,
            $only,
            max(0, (int) (is_string($this->option('pages')) ? $this->option('pages') : 0)),
        );
        $lines = match ($form) {
            'csv' => $table->csv(),
            'sitemap' => (new Sitemap($site))->xml(
                max(1, (int) (is_string($this->option('part')) ? $this->option('part') : 1)),
            ),
            'yaml' => [$site->field_map],
            default => $table->ndjson(),
        };
        try {
            foreach ($lines as $line) {
                $this->output->write($line, false, OutputInterface::OUTPUT_RAW);
            }
        } catch (NoSuchPart $e) {
            $this->error($e->getMessage());

            return ExitCode::WRONG;
        }

        return self::SUCCESS;
    }
}
