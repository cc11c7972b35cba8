<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Changes\Journal;
use App\Console\ExitCode;
use App\Plans\PlanDesk;
use Ylema\Plan\IdleQuestion;
use Ylema\Retire\RestPlanner;
use Ylema\Retire\RestRequest;

final class RestCommand extends Command implements AsksTheIndex
{
    use CarriesOut;
    use FindsSites;

    protected $signature = 'ylema:rest {site : its short name} {paths?* : items, by the path of any of their files}
        {--safe : all that everything speaks for} {--folder= : only what lies in this folder}
        {--asks : also what should be asked about first} {--to= : where visitors of the old addresses are sent}
        {--dry-run : only say what it would do}';

    protected $description = 'Lay idle files to rest, out of the public tree but whole (exit code 4: some were left)';

    public function handle(PlanDesk $desk, Journal $journal): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        $items = [];
        $paths = $this->argument('paths');
        foreach (is_array($paths) ? $paths : [] as $path) {
            $item = $this->item($site, (string) $path);
            if ($item === null) {
                return ExitCode::WRONG;
            }
            $items[] = $item->id;
        }
        if ($items === [] && ! $this->option('safe')) {
            $this->error('Say which: paths of items, or --safe for all that everything speaks for.');

            return ExitCode::WRONG;
        }
        $folder = $this->option('folder');
        $marks = ['proof' => 'safe', ...is_string($folder) ? ['folder' => rtrim($folder, '/')] : []];
        $to = $this->option('to');

        return $this->carryOut(
            $site,
            new RestPlanner(
                new RestRequest(
                    $items === [] ? new IdleQuestion($marks) : new IdleQuestion(items: $items),
                    $this->option('asks') === true,
                    is_string($to) ? $to : null,
                ),
            ),
            $desk,
            $journal,
        );
    }
}
