<?php

declare(strict_types=1);

namespace App\Plans;

use App\Models\MediaItem;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Plan\Place;
use Ylema\Plan\Places;

/** The places that a person chose by the numbers of their references, named so that they outlive the next reading. */
final class ChosenPlaces
{
    /**
     * @param  list<int>|null  $only numbers of references
     * @param  list<int>|null  $except numbers of references
     *
     * @throws PlanRefused when one of them is none of the item's
     */
    public static function of(MediaItem $item, ?array $only, ?array $except): Places
    {
        $ids = array_values(array_unique($only ?? ($except ?? [])));
        if ($only === null && $ids === []) {
            return new Places();
        }
        $rows = DB::select(
            <<<'SQL'
            select r.kind, r.key, q.field, q.nth from (
                select id, record_id, field, row_number() over (partition by record_id, field order by start) as nth
                    from media_references where media_item_id = ?
            ) as q join records r on r.id = q.record_id where q.id = any(cast(? as bigint[])) order by r.kind, r.key,
                q.field, q.nth
            SQL
            ,
            [$item->id, Sql::ids($ids)],
        );
        if (count($rows) !== count($ids)) {
            throw new PlanRefused(
                'Some of the chosen places are no longer there, since the site was read again meanwhile. Look at the '
                    .'bench and choose again.',
            );
        }
        $places = array_values(
            array_map(
                static fn (stdClass $row): Place => new Place($row->kind, $row->key, $row->field, (int) $row->nth),
                $rows,
            ),
        );

        return new Places($only !== null, $places);
    }
}
