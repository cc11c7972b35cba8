<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Changes\Journal;
use App\Console\ExitCode;
use App\Models\Change;
use App\Plans\PlanDesk;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use Ylema\Plan\RestingQuestion;
use Ylema\Retire\RestorePlanner;
use Ylema\Retire\RestoreRequest;

final class RestoreCommand extends Command
{
    use CarriesOut;
    use FindsSites;

    protected $signature = 'ylema:restore {site : its short name} {paths?* : files at rest or in the archive}
        {--change= : all that this change laid to rest} {--called : all that something asks for}
        {--elsewhere : under a free name where another file lies} {--dry-run : only say what it would do}';

    protected $description = 'Bring files back from their rest or from the archive (exit code 4: some were left)';

    public function handle(PlanDesk $desk, Journal $journal): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        $paths = $this->argument('paths');
        $paths = array_values(array_map(strval(...), is_array($paths) ? $paths : []));
        $question = null;
        if ($paths !== []) {
            $question = $this->which($site->id, $paths);
        } elseif ($this->option('change') !== null) {
            $plan = Change::query()->where('site_id', $site->id)->find((int) $this->option('change'))?->plan_id;
            $question = $plan === null ? null : new RestingQuestion(plan: $plan);
        } elseif ($this->option('called')) {
            $question = new RestingQuestion(called: true);
        }
        if ($question === null) {
            $this->error('Nothing of that rests or is archived. Say paths, --change=NUMBER or --called.');

            return ExitCode::WRONG;
        }

        return $this->carryOut(
            $site,
            new RestorePlanner(new RestoreRequest($question, $this->option('elsewhere') === true)),
            $desk,
            $journal,
        );
    }

    /** @param  non-empty-list<string>  $paths */
    private function which(int $site, array $paths): ?RestingQuestion
    {
        $ids = static fn (string $table): array => array_map(
            static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0,
            DB::table($table)
                ->where('site_id', $site)
                ->whereRaw('path = any(cast(? as text[]))', [Sql::texts($paths)])
                ->orderBy('id')
                ->pluck('id')
                ->all(),
        );
        $resting = $ids('resting_files');
        $bagged = $resting === [] ? $ids('bag_files') : [];

        return match (true) {
            $resting !== [] => new RestingQuestion(array_values($resting)),
            $bagged !== [] => new RestingQuestion(bagged: array_values($bagged)),
            default => null,
        };
    }
}
