<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Adopt\Adoptions;
use App\Adopt\ForeignHosts;
use App\Changes\Journal;
use App\Console\ExitCode;
use App\Plans\PlanDesk;
use Illuminate\Support\Facades\DB;
use Ylema\Adopt\AdoptPlanner;
use Ylema\Adopt\AdoptRequest;
use Ylema\Failure;

final class AdoptCommand extends Command implements AsksTheIndex
{
    use CarriesOut;
    use FindsSites;

    protected $signature = 'ylema:adopt {site : its short name} {--host=* : only the pictures of this host}
        {--pasted : pictures that lie in the text itself, too} {--dry-run : only say what it would do}';

    protected $description = 'Bring pictures of other hosts home (exit code 4 when some steps were left out)';

    public function handle(Adoptions $adoptions, PlanDesk $desk, Journal $journal): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        $known = array_column((new ForeignHosts($site))->all(), null, 'host');
        $hosts = array_values(array_map(strval(...), (array) $this->option('host')));
        foreach (array_diff($hosts, array_keys($known)) as $host) {
            $this->error("Nothing on this site names a picture of $host.");

            return ExitCode::WRONG;
        }
        if ($hosts === []) {
            $hosts = array_map(
                strval(...),
                array_keys(array_filter($known, static fn (array $h): bool => $h['decision'] !== ForeignHosts::ALLOW)),
            );
        }
        $pasted = $this->option('pasted') === true;
        if ($hosts === [] && ! $pasted) {
            $this->line('No picture comes from another host.');

            return self::SUCCESS;
        }
        if ($hosts !== []) {
            try {
                $adoption = $adoptions->begin($site, $hosts, null);
            } catch (Failure $e) {
                $this->error($e->getMessage());

                return 3;
            }
            while ($adoption->state->isOpen()) {
                usleep(300_000);
                $adoption->refresh();
            }
            $this->line("{$adoption->total('fetched')} fetched, {$adoption->total('refused')} cannot be had.");
            $this->reasons($site->id, $hosts);
        }

        return $this->carryOut($site, new AdoptPlanner(new AdoptRequest($hosts, $pasted)), $desk, $journal);
    }

    /** @param  list<string>  $hosts */
    private function reasons(int $site, array $hosts): void
    {
        $rows = DB::table('foreign_files')
            ->where('site_id', $site)
            ->whereIn('host', array_slice($hosts, 0, 200))
            ->whereNotNull('reason')
            ->orderBy('url')
            ->limit(20)
            ->get(['url', 'reason']);
        foreach ($rows as $row) {
            $this->line("  {$row->url}  {$row->reason}");
        }
    }
}
