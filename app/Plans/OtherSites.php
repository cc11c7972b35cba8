<?php

declare(strict_types=1);

namespace App\Plans;

use App\Models\Plan;
use App\Models\StepState;
use App\Sites\SharedFiles;
use Illuminate\Support\Facades\DB;
use Ylema\Plan\StepKind;
use Ylema\Plan\Words;

/** What a plan does to files that another site keeps in the same place, and shows. */
final readonly class OtherSites
{
    /** @return list<string> a sentence for each such site */
    public static function notes(Plan $plan): array
    {
        $notes = [];
        foreach (SharedFiles::of($plan->site) as $with) {
            $count = DB::scalar(
                <<<'SQL'
                select count(distinct o.id) from (
                    select coalesce(detail->>'from', path) as path from plan_steps
                    where plan_id = ? and state = ? and kind in (?, ?, ?, ?)
                ) s
                join files o on o.site_id = ?
                    and o.path = cast(? as text) || substr(s.path, length(cast(? as text)) + 1)
                join media_items i on i.id = o.media_item_id and i.uses > 0
                where starts_with(s.path, ?)
                SQL,
                [
                    $plan->id,
                    StepState::Proposed->value,
                    StepKind::WriteFile->value,
                    StepKind::MoveFile->value,
                    StepKind::DeleteFile->value,
                    StepKind::RestFile->value,
                    $with['site'],
                    $with['theirs'],
                    $with['mine'],
                    $with['mine'],
                ],
            );
            if (is_numeric($count) && $count > 0) {
                $notes[] = "$with[name] keeps its files in the same place, and shows "
                    .Words::many((int) $count, 'file').' that this changes. They change there as well.';
            }
        }

        return $notes;
    }
}
