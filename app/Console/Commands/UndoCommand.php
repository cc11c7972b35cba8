<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Changes\Journal;
use App\Console\ExitCode;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\StepState;
use Ylema\Failure;
use Ylema\Plan\Words;

final class UndoCommand extends Command
{
    use FindsSites;

    protected $signature = 'ylema:undo {change : its number}
        {--with-later : first undo the later changes that stand on it, the newest before the others}
        {--json : as json}';

    /** Later changes that one may stand on, one on the other. */
    private const LATER = 50;

    protected $description = 'Undo a change, byte for byte (exit code 4 when something was left as it is)';

    public function handle(Journal $journal): int
    {
        $number = $this->word('change');
        $change = ctype_digit($number) ? Change::query()->find((int) $number) : null;
        if ($change === null) {
            $this->error("There is no change $number.");

            return ExitCode::WRONG;
        }
        try {
            $change = $this->undo($journal, $change, $this->option('with-later') === true ? self::LATER : 0);
        } catch (Failure $e) {
            return $this->refused($e);
        }
        $kept = $change->steps()->where('state', StepState::Kept->value)->orderBy('position')->pluck('message')->all();
        $this->line(
            $this->option('json')
                ? (string) json_encode(
                    ['change' => $change->id, 'state' => $change->state->value, 'kept' => $kept],
                    JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE,
                )
                : "Change {$change->id} is {$change->state->value}.",
        );
        if (! $this->option('json')) {
            foreach (array_count_values(array_map(strval(...), $kept)) as $why => $steps) {
                $this->line(Words::many($steps, 'step').': '.$why);
            }
        }

        if ($change->state === ChangeState::UndoneInPart && ! $this->option('json') && self::stands($change)) {
            $this->line("With the later changes: bin/ylema undo {$change->id} --with-later");
        }

        return $change->state === ChangeState::UndoneInPart ? ExitCode::LEFT : ExitCode::DONE;
    }

    /** @param  int  $more later changes that may be undone for it, one standing on the other */
    private function undo(Journal $journal, Change $change, int $more): Change
    {
        $change = $journal->finish($journal->undo($change, null));
        $later = $more > 0 && self::stands($change) ? self::later($change) : [];
        foreach ($later as $one) {
            $this->undo($journal, $one, $more - 1);
        }

        return $later === [] ? $change : $journal->finish($journal->undo($change, null));
    }

    /** Whether later changes of ours keep it from being undone as a whole. */
    private static function stands(Change $change): bool
    {
        return $change->state === ChangeState::UndoneInPart && self::later($change) !== [];
    }

    /** @return list<Change> those that stand on it and can be undone, the newest first */
    private static function later(Change $change): array
    {
        $ids = $change->steps()
            ->where('state', StepState::Kept->value)
            ->whereNotNull('stands_on')
            ->distinct()
            ->pluck('stands_on');

        return array_values(Change::query()
            ->whereIn('id', $ids)
            ->orderByDesc('id')
            ->get()
            ->filter(static fn (Change $one): bool => $one->state->canBeUndone())
            ->all());
    }
}
