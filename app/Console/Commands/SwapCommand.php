<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Changes\Journal;
use App\Console\ExitCode;
use App\Http\Resources\StepView;
use App\Media\Uploads;
use App\Models\ChangeState;
use App\Plans\PlanDesk;
use Ylema\Failure;
use Ylema\Swap\Manner;
use Ylema\Swap\SwapPlanner;
use Ylema\Swap\SwapRequest;

final class SwapCommand extends Command implements AsksTheIndex
{
    use FindsSites;

    protected const FILES = ['to'];

    protected $signature = 'ylema:swap {site : its short name} {from : path of the item to be swapped}
        {to : path of an item of the site, or of a file on this machine}
        {--same-address : new bytes behind the same address, instead of new references}
        {--title= : of a file, in place of what it says of itself} {--alt= : its alternative text}
        {--caption= : the same} {--credit= : the same}
        {--dry-run : make and show the plan, apply nothing} {--json : as json}';

    protected $description = 'Swap a media item everywhere (exit code 4 when some steps were left out)';

    public function handle(PlanDesk $desk, Journal $journal, Uploads $uploads): int
    {
        $site = $this->site();
        $from = $site === null ? null : $this->item($site, $this->word('from'));
        if ($site === null || $from === null) {
            return ExitCode::WRONG;
        }
        $path = $this->word('to');
        $manner = $this->option('same-address') ? Manner::SameAddress : Manner::NewReference;
        try {
            if (is_file($path)) {
                $sent = $uploads->keep((string) file_get_contents($path), basename($path), $site);
                // The words inside the file, where nothing else was said: as on the bench.
                $said = fn (string $option, string $inside): string => is_string($this->option($option))
                    ? $this->option($option)
                    : $inside;
                $request = new SwapRequest(
                    $from->id,
                    $manner,
                    null,
                    $sent['token'],
                    title: $said('title', $sent['title']),
                    alt: $said('alt', ''),
                    caption: $said('caption', $sent['caption']),
                    credit: $said('credit', $sent['credit']),
                );
            } else {
                $to = $this->item($site, $path);
                if ($to === null) {
                    return ExitCode::WRONG;
                }
                $request = new SwapRequest($from->id, $manner, $to->id);
            }
            $plan = $desk->make($site, new SwapPlanner($request), null);
            $change = $this->option('dry-run') ? null : $journal->apply($plan, null, '');
            if ($change !== null) {
                $journal->finish($change);
            }
        } catch (Failure $e) {
            return $this->refused($e);
        }
        if ($this->option('dry-run')) {
            $desk->drop($plan);
        }
        if ($this->option('json')) {
            $this->line(
                (string) json_encode(
                    [
                        'plan' => $plan->id,
                        'change' => $change?->id,
                        'state' => $change->state->value ?? 'planned',
                        'sentence' => $plan->sentence,
                        'notes' => $plan->outline['notes'] ?? [],
                        'counts' => $change->counts ?? $plan->counts,
                        'steps' => $plan->steps()->orderBy('position')->get()->map(StepView::of(...))->all(),
                    ],
                    JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
                ),
            );
        } else {
            foreach ($plan->outline['notes'] ?? [] as $note) {
                $this->line("  $note");
            }
            foreach ($plan->steps()->orderBy('position')->lazy(500) as $step) {
                $this->line(
                    sprintf(
                        '  %-12s %s%s',
                        $step->kind->value,
                        $step->record_kind === null ? $step->title : "{$step->record_kind} {$step->title}",
                        $step->message === null ? '' : "  — left out: {$step->message}",
                    ),
                );
            }
            $this->line(
                "$plan->sentence "
                    .($change === null
                        ? 'Nothing was written.'
                        : "Change {$change->id} is {$change->state->value}; undo it with: ylema undo {$change->id}"),
            );
        }

        return $change?->state === ChangeState::AppliedInPart ? ExitCode::LEFT : ExitCode::DONE;
    }
}
