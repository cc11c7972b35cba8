<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Connect\Coverage;
use Illuminate\Console\Command;
use Ylema\Failure;
use Ylema\Plan\Words;

final class CoverageCommand extends Command
{
    use FindsSites;

    protected $signature = 'ylema:coverage {site : its short name} {--json : as json}';

    protected $description = 'Say which columns, places inside of them and files name media, and no line reads them';

    public function handle(Coverage $coverage): int
    {
        $site = $this->site();
        if ($site === null) {
            return 2;
        }
        try {
            $gaps = $coverage->of($site);
        } catch (Failure $e) {
            $this->error($e->getMessage());

            return self::FAILURE;
        }
        if ($this->option('json') === true) {
            $this->line(
                (string) json_encode($gaps, JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE),
            );

            return self::SUCCESS;
        }
        foreach ($gaps as $gap) {
            $place = $gap->table === '' ? "files $gap->column" : "$gap->table.$gap->column";
            $this->line(
                $place
                    .($gap->name === '' ? '' : ", rows called $gap->name")
                    .($gap->path === '' ? '' : ", at $gap->path")
                    .": $gap->why",
            );
            if ($gap->passing !== null) {
                $this->line("    most likely no content: $gap->passing");
            }
        }
        $this->line(
            $gaps === []
                ? 'All that was seen to name media is read.'
                : Words::many(count($gaps), 'place').' where media are named that no line reads.',
        );

        return self::SUCCESS;
    }
}
