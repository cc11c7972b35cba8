<?php

declare(strict_types=1);

namespace App\Usage;

use App\Support\BulkRows;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Addresses\OutcomeKind;
use Ylema\Usage\CarrierGraph;
use Ylema\Usage\RecordState;

/** Works out reach and standing of every item: facts from the index in, core's graph, columns of media_items out. */
final class UsageIndex
{
    /** Stands for "the site's own code": every page shows it, and it shows what is marked as everywhere. */
    private const SITE = 0;

    /** @var array{string, list<int>}|null what was asked last, since a trail asks the same twice */
    private ?array $closed = null;

    public function __construct(private readonly int $siteId)
    {
    }

    /** SQL: a list of the outcomes through which a visitor loses something. */
    public static function broken(): string
    {
        return "'"
            .implode("','", array_map(static fn (OutcomeKind $kind): string => $kind->value, OutcomeKind::broken()))
            ."'";
    }

    /** @return list<int> items that stand otherwise than before */
    public function rebuild(): array
    {
        $graph = $this->graph();
        DB::statement(
            'create temporary table worked_out (id bigint primary key, standing text, reach integer, uses integer, '
                .'broken integer, use_kinds jsonb) on commit drop',
        );
        $rows = new BulkRows('worked_out', ['id', 'standing', 'reach', 'uses', 'broken', 'use_kinds']);
        $kind = self::useKind('m', 'r');
        $broken = self::broken();
        $uses = DB::cursor(
            <<<SQL
            select m.media_item_id as id, r.id as record, $kind as kind, count(*) as uses,
                count(*) filter (where m.outcome in ($broken)) as broken
            from media_references m join records r on r.id = m.record_id
            where m.site_id = ? and m.media_item_id is not null group by 1, 2, 3 order by 1
            SQL
            ,
            [$this->siteId],
        );
        $item = null;
        $records = $kinds = [];
        $total = $bad = 0;
        /** @var stdClass $use */
        foreach ($uses as $use) {
            if ($item !== null && $item !== $use->id) {
                $rows->add([
                    $item,
                    $graph->standingOf($records)->value,
                    $graph->countPagesOf($records),
                    $total,
                    $bad,
                    $kinds,
                ]);
                $records = $kinds = [];
                $total = $bad = 0;
            }
            $item = $use->id;
            $records[] = $use->record;
            $kinds[$use->kind] = ($kinds[$use->kind] ?? 0) + $use->uses;
            $total += $use->uses;
            $bad += $use->broken;
        }
        if ($item !== null) {
            $rows->add([
                $item,
                $graph->standingOf($records)->value,
                $graph->countPagesOf($records),
                $total,
                $bad,
                $kinds,
            ]);
        }
        $rows->flush();
        $changed = DB::select(
            <<<'SQL'
            update media_items m set standing = w.standing, reach = w.reach, uses = w.uses, broken = w.broken,
                use_kinds = w.use_kinds
            from worked_out w where w.id = m.id and (m.standing, m.reach, m.uses, m.broken, m.use_kinds) is distinct
                from (w.standing, w.reach, w.uses, w.broken, w.use_kinds) returning m.id
            SQL
            ,
        );
        $idle = DB::select(
            "update media_items m set standing = 'idle', reach = 0, uses = 0, broken = 0, use_kinds = '{}' where "
                ."m.site_id = ? and (m.uses > 0 or m.standing <> 'idle') and not exists (select 1 from worked_out w "
                .'where w.id = m.id) returning m.id',
            [$this->siteId],
        );
        // What a page was seen to show is not idle, though no record that was read names it.
        DB::update(
            <<<'SQL'
            update media_items m set standing = 'live', reach = s.pages from (
                select f.media_item_id as id, count(distinct s.record_id) as pages
                from sightings s join files f on f.site_id = s.site_id and f.path = s.path
                where s.site_id = ? and s.seen and not s.mapped group by 1
            ) as s where m.id = s.id and m.standing = 'idle'
            SQL
            ,
            [$this->siteId],
        );

        return array_values(
            array_map(static fn (stdClass $row): int => (int) $row->id, [...$changed, ...$idle]),
        );
    }

    /**
     * The carriers of the whole site, or only those above some records.
     *
     * @param  list<int>|null  $above
     */
    public function graph(?array $above = null): CarrierGraph
    {
        $states = [self::SITE => RecordState::Live];
        $public = $everywhere = [];
        $records = DB::table('records')
            ->where('site_id', $this->siteId)
            ->select('id', 'state', 'is_page', 'everywhere');
        $edges = DB::table('carrying')->where('site_id', $this->siteId)->select('carrier_id', 'carried_id');
        if ($above !== null) {
            $ids = [Sql::ids($this->closure($above))];
            // What stands everywhere reaches every page, so then every page is needed.
            $whole = DB::table('records')
                ->whereRaw('id = any(cast(? as bigint[]))', $ids)
                ->where('everywhere', true)
                ->exists();
            $records->where(
                fn ($q) => $q
                    ->whereRaw('id = any(cast(? as bigint[]))', $ids)
                    ->when($whole, fn ($w) => $w->orWhere('is_page', true)),
            );
            $edges->whereRaw('carried_id = any(cast(? as bigint[]))', $ids);
        }
        foreach ($records->cursor() as $record) {
            $states[$record->id] = RecordState::from($record->state);
            if ($record->is_page) {
                $public[] = $record->id;
            }
            if ($record->everywhere) {
                $everywhere[] = $record->id;
            }
        }

        return new CarrierGraph(
            $states,
            $public,
            (function () use ($edges, $everywhere, $public) {
                foreach ($edges->cursor() as $edge) {
                    yield [$edge->carrier_id, $edge->carried_id];
                }
                if ($everywhere !== []) {
                    foreach ($public as $page) {
                        yield [$page, self::SITE];
                    }
                    foreach ($everywhere as $record) {
                        yield [self::SITE, $record];
                    }
                }
            })(),
        );
    }

    /**
     * These records and all that carry them, through any chain.
     *
     * @param  list<int>  $records
     * @return list<int>
     */
    public function closure(array $records): array
    {
        $list = Sql::ids($records);
        if ($this->closed !== null && $this->closed[0] === $list) {
            return $this->closed[1];
        }
        // Asked record by record, the index answers; asked as a join, PostgreSQL reads all references at each step.
        $rows = DB::select(
            <<<'SQL'
            with recursive above(id) as (
                select unnest(cast(? as bigint[]))
                union
                select up.carrier_id from above cross join lateral
                    (select c.carrier_id from carrying c where c.carried_id = above.id offset 0) as up
            ) select id from above
            SQL
            ,
            [$list],
        );
        $ids = array_values(array_map(static fn (stdClass $row): int => (int) $row->id, $rows));
        $this->closed = [$list, $ids];

        return $ids;
    }

    /**
     * The public pages on which a visitor meets what some records hold.
     *
     * @param  array<int>  $records
     * @param  int  $limit how many of them are named
     * @return array{int, list<array{id: int, title: string, address: string}>} how many, and the first in the order of
     *       their addresses
     */
    public function named(array $records, int $limit): array
    {
        if ($records === []) {
            return [0, []];
        }
        $pages = $this->graph(array_values($records))->pagesOf($records);
        $named = DB::select(
            'select id, title, address from records where id = any(cast(? as bigint[])) order by address, id limit ?',
            [Sql::ids($pages), $limit],
        );

        return [
            count($pages),
            array_values(
                array_map(
                    static fn (stdClass $r): array => [
                        'id' => (int) $r->id,
                        'title' => (string) $r->title,
                        'address' => (string) $r->address,
                    ],
                    $named,
                ),
            ),
        ];
    }

    /**
     * A fair sample of the public pages on which a visitor meets what some records hold: of every kind of page alike
     * many, and within a kind always the same ones.
     *
     * @param  array<int>  $records
     * @return array{int, list<int>} how many there are, and the ids of the sample
     */
    public function sample(array $records, int $limit): array
    {
        if ($records === []) {
            return [0, []];
        }
        $pages = $this->graph(array_values($records))->pagesOf($records);
        $rows = DB::select(
            <<<'SQL'
            select id from (select id, address, row_number() over (partition by kind order by md5(id::text)) as turn
                from records where id = any(cast(? as bigint[]))) as dealt order by turn, address limit ?
            SQL
            ,
            [Sql::ids($pages), $limit],
        );

        return [count($pages), array_values(array_map(static fn (stdClass $r): int => (int) $r->id, $rows))];
    }

    /** SQL that names the kind of use for the use bar: how a picture is placed, then what it is placed on. */
    public static function useKind(string $reference, string $record): string
    {
        return "case when $reference.role = 'featured' then 'featured' when $record.kind in ('page', 'post') then "
            ."$record.kind "
            ."when $record.kind in ('banner', 'banner-set', 'slot') then 'banner' when $record.kind = 'gallery' then "
            ."'gallery' "
            ."when $record.kind = 'style-sheet' then 'style' when $record.kind = 'version' then 'version' else "
            ."'part' end";
    }
}
