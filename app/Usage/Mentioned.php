<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\MediaItem;
use App\Models\Site;
use App\Sites\FieldMap;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Net\Strength;
use Ylema\Usage\RecordState;

/** What names files in a way that is not read, as a maintainer is shown it. */
final readonly class Mentioned
{
    /** Of one item that many are listed; the count is of all. */
    private const LISTED = 40;

    /** Places that the map leaves out are that many at most on a page. */
    private const GROUPS = 200;

    public function __construct(private Site $site)
    {
    }

    /** @return array{total: int, rows: list<array<string, mixed>>} those of one item, the weightiest first */
    public function of(MediaItem $item): array
    {
        $rows = DB::select(
            <<<'SQL'
            select m.id, m.source, m.place, m.at, m.field, m.line, m.strength, m.item, r.id as record_id, r.kind,
                r.title, r.state, m.folder || m.stem || case m.ending when '' then '' else '.' || m.ending end as said,
                count(*) over () as total
            from (select distinct mention_id from mentioned(:site, cast(:items as bigint[]))
                where media_item_id = :item) v
            join mentions m on m.id = v.mention_id left join records r on r.id = m.record_id
            where not exists (
                select 1 from files f where f.media_item_id = :item and f.path = m.place)
            order by coalesce(r.state, 1), m.strength in ('path', 'name') desc, r.title, m.place, m.at, m.id limit :most
            SQL
            ,
            [
                'site' => $this->site->id,
                'items' => Sql::ids([$item->id]),
                'item' => $item->id,
                'most' => self::LISTED,
            ],
        );

        return [
            'total' => (int) ($rows[0]->total ?? 0),
            'rows' => array_values(array_map(self::row(...), $rows)),
        ];
    }

    /**
     * Those of a file with its renditions, or of all files of a folder; what the site's own code names counts as well.
     *
     * @return array{items: int, places: int, example: string}
     */
    public function at(string $path): array
    {
        $row = DB::selectOne(
            <<<'SQL'
            with of as (
                select coalesce(array_agg(distinct media_item_id), '{}') as items from files
                where site_id = :site and media_item_id is not null
                    and (path = :path or starts_with(path, rtrim(:path, '/') || '/'))
            )
            select count(distinct v.media_item_id) as items, count(distinct m.id) as places,
                min(case when r.id is not null then '“' || r.title || '” (' || m.field || ')'
                    else m.place || coalesce(':' || m.line, case m.at when '' then '' else ', row ' || m.at end) end)
                    as example
            from of cross join lateral mentioned(:site, of.items) v join mentions m on m.id = v.mention_id
            join media_items i on i.id = v.media_item_id left join records r on r.id = m.record_id
            where v.media_item_id = any(of.items)
                and not (m.source = 'table' and starts_with(m.place, :media) and m.at = i.source_id)
                and not exists (select 1 from files f where f.media_item_id = v.media_item_id and f.path = m.place)
            SQL
            ,
            ['site' => $this->site->id, 'path' => $path, 'media' => self::mediaTable($this->site).'.'],
        );

        return [
            'items' => (int) ($row->items ?? 0),
            'places' => (int) ($row->places ?? 0),
            'example' => (string) ($row->example ?? ''),
        ];
    }

    /** The site's own list of media, of which each row names its own file; empty where it has none. */
    public static function mediaTable(Site $site): string
    {
        return FieldMap::parse($site->field_map)->media->table ?? '';
    }

    /**
     * Where mentions stand, place by place; places of which something is asked are listed there.
     *
     * @return array{total: int, rows: list<array{source: string, place: string, count: int, items: int}>}
     */
    public function groups(): array
    {
        $rows = DB::select(
            <<<'SQL'
            select m.source, case when r.id is not null then r.kind || ': ' || m.field else m.place end as place,
                count(distinct m.id) as count, count(distinct v.media_item_id) as items,
                count(*) over () as total
            from mentioned(:site, null) v join mentions m on m.id = v.mention_id
            left join records r on r.id = m.record_id
            -- What code names in whole is understood, and needed.
            where not (m.source = 'code' and m.strength in ('path', 'name'))
                and not exists (select 1 from place_questions q where q.site_id = m.site_id and q.source = m.source
                    and q.place = m.place and (q.kind = 'keys') = (m.strength = 'key'))
            group by 1, 2 order by items desc, place limit :most
            SQL
            ,
            ['site' => $this->site->id, 'most' => self::GROUPS],
        );

        return [
            'total' => (int) ($rows[0]->total ?? 0),
            'rows' => array_values(array_map(static fn (stdClass $row): array => [
                'source' => (string) $row->source,
                'place' => (string) $row->place,
                'count' => (int) $row->count,
                'items' => (int) $row->items,
            ], $rows)),
        ];
    }

    /** @return list<array{place: string, why: string}> what nobody could look into when the site was read last */
    public static function notSearched(Site $site): array
    {
        $left = array_values(array_unique(
            [...$site->code['left'] ?? [], ...$site->beside['left'] ?? []],
            SORT_REGULAR,
        ));
        $more = $site->beside['more'] ?? 0;

        return $more === 0 ? $left : [...$left, ['place' => "$more more", 'why' => 'They are not listed.']];
    }

    /** @return array<string, mixed> */
    private static function row(stdClass $row): array
    {
        return [
            'id' => (int) $row->id,
            'source' => (string) $row->source,
            'place' => match (true) {
                $row->record_id !== null => (string) $row->title,
                $row->at !== '' => "$row->place, row $row->at",
                $row->line !== null => "$row->place:$row->line",
                default => (string) $row->place,
            },
            'record_id' => $row->record_id === null ? null : (int) $row->record_id,
            'kind' => $row->kind,
            'field' => (string) $row->field,
            'state' => $row->state === null ? null : RecordState::from((int) $row->state)->word(),
            'said' => $row->item === null ? (string) $row->said : "the number $row->item",
            'whole' => Strength::tryFrom((string) $row->strength)?->isWhole() ?? false,
        ];
    }
}
