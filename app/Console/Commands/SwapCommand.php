<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Changes\Journal;
use App\Changes\PlanRefused;
use App\Changes\SwapPlans;
use App\Changes\SwapRequest;
use App\Media\Uploads;
use App\Models\ChangeState;
use App\Models\PlanWrite;
use Illuminate\Console\Command;
use Ylema\Imaging\UploadRefused;
use Ylema\Sites\SourceUnavailable;

final class SwapCommand extends Command
{
    use FindsSites;

    protected $signature = 'ylema:swap {site : its short name} {from : path of the item to be swapped} {to : path of an item of the site, or of a picture on this machine}
        {--same-address : new bytes behind the same address, instead of new references} {--dry-run : make and show the plan, apply nothing} {--json : as json}';

    protected $description = 'Swap a media item everywhere (exit code 4 when some records were left alone)';

    public function handle(SwapPlans $plans, Journal $journal, Uploads $uploads): int
    {
        $site = $this->site();
        $from = $site === null ? null : $this->item($site, $this->word('from'));
        if ($site === null || $from === null) {
            return 2;
        }
        $path = $this->word('to');
        try {
            if (is_file($path)) {
                $upload = $uploads->keep((string) file_get_contents($path), basename($path))['token'];
                $request = new SwapRequest($from->id, (bool) $this->option('same-address'), null, $upload);
            } else {
                $to = $this->item($site, $path);
                if ($to === null) {
                    return 2;
                }
                $request = new SwapRequest($from->id, (bool) $this->option('same-address'), $to->id, null);
            }
            $plan = $plans->make($site, $request, null);
            $change = $this->option('dry-run') ? null : $journal->apply($plan, null, '');
            if ($change !== null) {
                $journal->work($change);
                // A worker may have taken it first; then wait for that one.
                for ($i = 0; $i < 2400 && $change->refresh()->state->isRunning(); $i++) {
                    usleep(250_000);
                }
            }
        } catch (PlanRefused|UploadRefused|SourceUnavailable $e) {
            $this->error($e->getMessage());

            return self::FAILURE;
        }
        if ($this->option('dry-run')) {
            $plan->update(['state' => 'dropped']);
        }
        if ($this->option('json')) {
            $this->line((string) json_encode([
                'plan' => $plan->id, 'change' => $change?->id, 'state' => $change->state->value ?? 'planned', 'summary' => $plan->summary,
                'writes' => $plan->writes()->orderBy('position')->get()->map(static fn (PlanWrite $w): array => ['target' => $w->target, 'kind' => $w->record_kind, 'key' => $w->record_key, 'title' => $w->title, 'detail' => $w->detail, 'problem' => $w->problem])->all(),
            ], JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE));
        } else {
            foreach ($plan->writes()->orderBy('position')->get() as $write) {
                $this->line(sprintf('  %-9s %s%s', $write->target, $write->record_kind === null ? $write->title : "{$write->record_kind} {$write->title}", $write->problem === null ? '' : "  — left out: {$write->problem}"));
            }
            $this->line("{$plan->summary['references']} references in {$plan->summary['records']} records, {$plan->summary['files']} files. ".($change === null ? 'Nothing was written.' : "Change {$change->id} is {$change->state->value}; undo it with: ylema undo {$change->id}"));
        }

        return $change?->state === ChangeState::AppliedInPart ? 4 : self::SUCCESS;
    }
}
