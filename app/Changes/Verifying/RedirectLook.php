<?php

declare(strict_types=1);

namespace App\Changes\Verifying;

use App\Models\Change;
use App\Models\PlanStep;
use App\Models\StepState;
use App\Redirects\RedirectChecker;
use Illuminate\Database\Eloquent\Builder;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\DropRedirect;
use Ylema\Plan\Steps\Redirect;
use Ylema\Redirects\Entry;
use Ylema\Redirects\Verdict;

/** The old addresses that a change promised to lead on: each is asked for, as somebody with an old link would. */
final readonly class RedirectLook
{
    /** Of what does not lead on, as much as a person reads. */
    private const ROWS = 100;

    public function __construct(private RedirectChecker $checker)
    {
    }

    /**
     * @return array{of: int, asked: int, right: int, unknown: int, rows: list<array<string, mixed>>} addresses
     *       promised, asked for, that lead on, that could not be asked for; and those that do not lead where the plan
     *       says
     */
    public function look(Change $change, int $limit): array
    {
        $promised = $change->steps()->where(
            static fn (Builder $either): Builder => $either
                ->where(static fn (Builder $made): Builder => $made
                    ->where('kind', StepKind::Redirect->value)
                    ->where('state', StepState::Done->value))
                ->orWhere(static fn (Builder $back): Builder => $back
                    ->where('kind', StepKind::DropRedirect->value)
                    ->where('state', StepState::Undone->value)),
        );
        $entries = [];
        foreach ((clone $promised)->orderBy('position')->limit($limit)->get() as $row) {
            $entries[] = self::entry($row);
        }
        $right = $unknown = 0;
        $rows = [];
        foreach ($entries === [] ? [] : $this->checker->ask($change->site, $entries) as $i => $check) {
            // Two leaps lead there as well; the list of redirects says which could be one.
            $right += in_array($check->verdict, [Verdict::Right, Verdict::Chain], true) ? 1 : 0;
            $unknown += $check->verdict === Verdict::Unknown ? 1 : 0;
            if (! in_array($check->verdict, [Verdict::Right, Verdict::Chain], true) && count($rows) < self::ROWS) {
                $rows[] = [
                    'from' => $entries[$i]->from,
                    'address' => $change->site->addresses()->addressOfPage($entries[$i]->from),
                    'to' => $entries[$i]->to,
                    'verdict' => $check->verdict->value,
                    'words' => $check->words,
                ];
            }
        }

        return [
            'of' => $promised->count(),
            'asked' => count($entries),
            'right' => $right,
            'unknown' => $unknown,
            'rows' => $rows,
        ];
    }

    private static function entry(PlanStep $row): Entry
    {
        $step = $row->step();

        return $step instanceof Redirect || $step instanceof DropRedirect
            ? new Entry($step->from, $step->to, $step->status)
            : new Entry($row->title, '', 410);
    }
}
