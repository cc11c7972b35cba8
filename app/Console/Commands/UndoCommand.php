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

    protected $signature = 'ylema:undo {change : its number} {--json : as json}';

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
            $change = $journal->finish($journal->undo($change, null));
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

        return $change->state === ChangeState::UndoneInPart ? ExitCode::LEFT : ExitCode::DONE;
    }
}
