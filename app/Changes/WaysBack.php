<?php

declare(strict_types=1);

namespace App\Changes;

use App\Changes\Executors\Executor;
use App\Changes\Executors\Result;
use App\Models\Change;
use App\Sites\OpenSite;
use App\Support\BulkRows;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Sites\SourceUnavailable;

/** Takes steps of one kind back: by their inverse, and where later changes of ours stand on one, through those. */
final readonly class WaysBack
{
    public function __construct(private Change $change, private OpenSite $site, private Executor $executor)
    {
    }

    /**
     * @param  non-empty-array<int, Step>  $steps
     * @return array<int, Result>
     *
     * @throws SourceUnavailable
     */
    public function take(array $steps): array
    {
        $results = $this->executor->back($this->site, $steps);
        $open = array_intersect_key($steps, array_filter($results, static fn (Result $one): bool => $one->isChanged));
        if ($open === []) {
            return $results;
        }
        $found = $this->executor->ways($this->site, $open, $this->noted($open));
        $ways = array_filter($found, static fn (Step|Result $one): bool => $one instanceof Step);
        $results = array_replace(
            $results,
            array_filter($found, static fn (Step|Result $one): bool => $one instanceof Result),
        );
        if ($ways === []) {
            return $results;
        }
        $this->note($ways);

        return array_replace(
            $results,
            $this->executor->back($this->site, array_intersect_key($open, $ways), $ways),
        );
    }

    /**
     * @param  array<int, Step>  $steps
     * @return array<int, Step> ways that were noted before a process was killed
     */
    private function noted(array $steps): array
    {
        $rows = DB::select(
            'select position, kind, back from plan_steps where plan_id = ? and back is not null '
                .'and position = any(cast(? as integer[]))',
            [$this->change->plan_id, Sql::ids(array_keys($steps))],
        );
        $noted = [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $way = json_decode((string) $row->back, true, 64, JSON_THROW_ON_ERROR);
            $kind = StepKind::from((string) $row->kind);
            $noted[(int) $row->position] = $kind->restore(is_array($way) ? $way : []);
        }

        return $noted;
    }

    /** @param  non-empty-array<int, Step>  $ways */
    private function note(array $ways): void
    {
        $rows = array_map(
            static fn (int $position, Step $way): array => ['p' => $position, 'd' => $way->toArray()],
            array_keys($ways),
            $ways,
        );
        DB::update(
            'update plan_steps t set back = v.d from jsonb_to_recordset(cast(? as jsonb)) as v(p integer, d jsonb) '
                .'where t.plan_id = ? and t.position = v.p',
            [BulkRows::json($rows), $this->change->plan_id],
        );
    }
}
