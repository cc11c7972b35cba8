<?php

declare(strict_types=1);

namespace App\Plans;

use App\Models\MediaItem;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use LogicException;
use stdClass;
use Ylema\Plan\Place;
use Ylema\Plan\Places;

/** The places that a person chose by the numbers of their references, named so that they outlive the next reading. */
final class ChosenPlaces
{
    /**
     * The places at which an item stands now in the records that undo of a plan had to leave.
     */
    public static function inKept(int $item, int $plan): Places
    {
        $rows = DB::select(
            <<<'SQL'
            select r.kind, r.key, q.field, q.nth from (
                select record_id, field, row_number() over (partition by record_id, field order by start) as nth
                    from media_references where media_item_id = ?
            ) as q join records r on r.id = q.record_id
            where exists (select 1 from plan_steps s where s.plan_id = ? and s.state = 'kept'
                and s.record_kind = r.kind and s.record_key = r.key)
            order by r.kind, r.key, q.field, q.nth
            SQL
            ,
            [$item, $plan],
        );

        return Places::only(self::places($rows));
    }

    /**
     * @param  array<mixed>  $rows
     * @return list<Place>
     */
    private static function places(array $rows): array
    {
        return array_values(
            array_map(
                static fn (mixed $row): Place => $row instanceof stdClass
                    ? new Place($row->kind, $row->key, $row->field, (int) $row->nth)
                    : throw new LogicException('A row of the database is an object.'),
                $rows,
            ),
        );
    }

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

        return new Places($only !== null, self::places($rows));
    }
}
