<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Retire\Weight;

final class WeightCommand extends Command implements AsksTheIndex
{
    use FindsSites;

    protected $signature = 'ylema:weight {site : its short name}
        {--table=folders : folders, types, standings, years or pages} {--csv : as RFC 4180 has it}';

    protected $description = 'Say what the media of a site weigh';

    public function handle(): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        $table = $this->option('table');
        if (! is_string($table) || ! in_array($table, Weight::TABLES, true)) {
            $this->error('Tables are '.implode(', ', Weight::TABLES).'.');

            return ExitCode::WRONG;
        }
        $weight = new Weight($site);
        if ($this->option('csv')) {
            foreach ($weight->csv($table) as $line) {
                $this->output->write($line);
            }

            return self::SUCCESS;
        }
        $rows = $weight->table($table);
        $this->table(array_keys($rows[0] ?? ['nothing yet' => 0]), $rows);

        return self::SUCCESS;
    }
}
