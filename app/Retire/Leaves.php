<?php

declare(strict_types=1);

namespace App\Retire;

use App\Models\Record;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;

/** What would be left behind if a record went: what only it shows, and what others show, too. */
final readonly class Leaves
{
    /** Records that are named for one item. */
    private const NAMED = 5;

    /** Carriers of carriers: more steps than any site has. */
    private const STEPS = 10;

    private const ITEMS = 500;

    public function __construct(private Record $record)
    {
    }

    /** @return array<string, mixed> */
    public function list(): array
    {
        $going = $this->going();
        $rows = DB::select(
            <<<'SQL'
            with own as (
                select distinct media_item_id as id from media_references
                where record_id = any(cast(? as bigint[])) and media_item_id is not null
            ), others as (
                select m.media_item_id as id, r.id as record, r.kind, r.title, min(r.state) as state
                from own join media_references m on m.media_item_id = own.id
                join records r on r.id = m.record_id
                where not (r.id = any(cast(? as bigint[]))) group by 1, 2, 3, 4
            )
            select i.id, i.path, i.title, i.verdict, i.verdict_by, f.id as file_id, f.sha256, f.mime, f.width, f.height,
                (select sum(g.size) from files g where g.media_item_id = i.id) as bytes,
                (select count(*) from others o where o.id = i.id and o.state < 2) as alive,
                (select count(*) from others o where o.id = i.id and o.state = 2) as past,
                (select jsonb_agg(jsonb_build_object('id', n.record, 'kind', n.kind, 'title', n.title)) from (
                    select * from others o where o.id = i.id order by o.state, o.title limit ?) as n) as records
            from own join media_items i on i.id = own.id
            left join files f on f.media_item_id = i.id and f.is_original order by i.path limit ?
            SQL
            ,
            [Sql::ids($going), Sql::ids($going), self::NAMED, self::ITEMS],
        );
        $only = $past = $shared = [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $item = self::item($row);
            match (true) {
                (int) $row->alive > 0 => ($shared[] = $item),
                (int) $row->past > 0 => ($past[] = $item),
                default => ($only[] = $item),
            };
        }

        return [
            'only' => $only,
            'past' => $past,
            'shared' => $shared,
            'carriers' => count($going) - 1,
            'bytes' => array_sum(array_column($only, 'bytes')),
        ];
    }

    /** @return list<int> the record, and carriers that nothing carries but it */
    private function going(): array
    {
        $going = [$this->record->id => true];
        for ($step = 0; $step < self::STEPS; $step++) {
            $ids = Sql::ids(array_keys($going));
            $found = DB::select(
                <<<'SQL'
                select distinct m.carried_id as id from carrying m
                where m.carrier_id = any(cast(? as bigint[]))
                    and not exists (select 1 from carrying o where o.carried_id = m.carried_id
                        and not (o.carrier_id = any(cast(? as bigint[]))))
                SQL
                ,
                [$ids, $ids],
            );
            $before = count($going);
            foreach ($found as $row) {
                $going[(int) $row->id] = true;
            }
            if (count($going) === $before) {
                break;
            }
        }

        return array_keys($going);
    }

    /** @return array<string, mixed> */
    private static function item(stdClass $row): array
    {
        $records = json_decode((string) $row->records, true);

        return [
            'id' => (int) $row->id,
            'path' => (string) $row->path,
            'title' => (string) $row->title,
            // What else needs it, though no other record does.
            'because' => in_array($row->verdict_by, ['code', 'survey', 'log'], true) ? (string) $row->verdict_by : null,
            'file_id' => $row->file_id === null ? null : (int) $row->file_id,
            'sha256' => trim((string) $row->sha256),
            'mime' => (string) $row->mime,
            'width' => $row->width === null ? null : (int) $row->width,
            'height' => $row->height === null ? null : (int) $row->height,
            'bytes' => (int) $row->bytes,
            'others' => (int) $row->alive + (int) $row->past,
            'records' => is_array($records) ? $records : [],
        ];
    }
}
