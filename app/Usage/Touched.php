<?php

declare(strict_types=1);

namespace App\Usage;

use Illuminate\Support\Facades\DB;
use stdClass;

/** The records through which a visitor meets what a plan touches: those it edits, and those that show its files. */
final class Touched
{
    /** @return list<int> ids of records */
    public static function by(int $site, int $plan): array
    {
        $rows = DB::select(
            <<<'SQL'
            select r.id from plan_steps s join records r on r.site_id = :site and r.kind = s.record_kind
                and r.key = s.record_key
            where s.plan_id = :plan and s.kind = 'edit-record'
            union
            select r.id from plan_steps s join records r on r.site_id = :site4 and r.kind = s.record_kind
                and r.key = s.detail->>'moved'
            where s.plan_id = :plan4 and s.kind = 'edit-record' and s.detail->>'moved' is not null
            union
            select m.record_id from plan_steps s join files f on f.site_id = :site2 and f.path = s.path
                join addresses a on a.file_id = f.id
            join media_references m on m.address_id = a.id where s.plan_id = :plan2 and s.path is not null
            union
            select m.record_id from plan_steps s join media_items i on i.site_id = :site3 and i.path = s.path
                join media_references m on m.media_item_id = i.id
            where s.plan_id = :plan3 and s.path is not null
            SQL
            ,
            [
                'site' => $site,
                'plan' => $plan,
                'site2' => $site,
                'plan2' => $plan,
                'site3' => $site,
                'plan3' => $plan,
                'site4' => $site,
                'plan4' => $plan,
            ],
        );

        return array_values(array_map(static fn (stdClass $row): int => (int) $row->id, $rows));
    }
}
