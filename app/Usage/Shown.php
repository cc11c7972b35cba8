<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\MediaReference;
use App\Models\Site;
use App\Sites\FieldMap;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * What records show: the media that they name themselves, and what comes to them through carriers, in the order of the
 * text. Each carrier counts once, on the shortest way to it.
 */
final class Shown
{
    /** Carriers of carriers of carriers: more steps than any site has. */
    private const STEPS = 10;

    /** @var array<string, array<string, int>> kind → field → its place in the field map */
    private array $places = [];

    public function __construct(private readonly Site $site)
    {
        foreach (FieldMap::parse($site->field_map)->kinds as $kind) {
            $this->places[$kind->kind] = array_flip(array_keys($kind->fields));
        }
    }

    /**
     * @param  list<int>  $roots ids of records
     * @param  int  $each how many references of one record are named at most
     * @return array<int, list<array{list<int>, MediaReference}>> root → the carriers
     *       between, the root's own first; and the reference, with item and original as attributes
     */
    public function by(array $roots, int $each): array
    {
        $ways = $this->ways($roots);
        $records = array_values(array_unique(array_merge(...array_map(array_keys(...), array_values($ways)))));
        $held = $this->held($records, $each);
        $shown = [];
        foreach ($roots as $root) {
            $own = [];
            foreach ($ways[$root] as $record => $via) {
                foreach ($held[$record] ?? [] as $reference) {
                    $own[] = [$via, $reference];
                }
            }
            $shown[$root] = $own;
        }

        return $shown;
    }

    /**
     * @param  list<int>  $roots
     * @return array<int, array<int, list<int>>> root → record that it shows → the carriers between, the nearest first
     */
    private function ways(array $roots): array
    {
        $ways = [];
        foreach ($roots as $root) {
            $ways[$root] = [$root => []];
        }
        $ring = array_map(static fn (int $root): array => [$root], array_combine($roots, $roots));
        for ($step = 0; $step < self::STEPS && $ring !== []; $step++) {
            $next = [];
            foreach ($this->carried(array_keys($ring)) as [$carrier, $record]) {
                foreach ($ring[$carrier] as $root) {
                    if (! isset($ways[$root][$record])) {
                        $ways[$root][$record] = $carrier === $root ? [$record] : [...$ways[$root][$carrier], $record];
                        $next[$record][] = $root;
                    }
                }
            }
            $ring = $next;
        }

        return $ways;
    }

    /**
     * @param  list<int>  $carriers
     * @return list<array{int, int}> carrier, record; in the order of the text
     */
    private function carried(array $carriers): array
    {
        $rows = DB::select(
            <<<'SQL'
            select m.carrier_id as record_id, m.carried_id, r.kind, m.field, m.start from carrying m
            join records r on r.id = m.carrier_id
            where m.carrier_id = any(cast(? as bigint[]))
            SQL
            ,
            [Sql::ids($carriers)],
        );
        usort($rows, $this->inOrder(...));

        return array_values(
            array_map(static fn (stdClass $r): array => [(int) $r->record_id, (int) $r->carried_id], $rows),
        );
    }

    /**
     * @param  list<int>  $records
     * @return array<int, list<MediaReference>> record → references
     */
    private function held(array $records, int $each): array
    {
        $rows = DB::select(
            <<<'SQL'
            select m.*, r.kind, i.title as item_title, i.path as item_path, i.alt as item_alt, i.standing,
                f.id as original_id, f.sha256, f.mime, f.width, f.height
            from (select m.*, row_number() over (partition by m.record_id order by m.field, m.start) as n
                from media_references m where m.record_id = any(cast(? as bigint[]))
                    and m.names not in ('record', 'owner')) m
            join records r on r.id = m.record_id
            left join media_items i on i.id = m.media_item_id
            left join files f on f.media_item_id = i.id and f.is_original
            where m.n <= ?
            SQL
            ,
            [Sql::ids($records), $each],
        );
        usort($rows, $this->inOrder(...));
        $held = [];
        foreach (MediaReference::hydrate($rows)->load('address') as $reference) {
            $held[$reference->record_id][] = $reference;
        }

        return $held;
    }

    private function inOrder(stdClass $a, stdClass $b): int
    {
        return [$a->record_id, $this->places[$a->kind][$a->field] ?? 0, $a->start] <=> [
            $b->record_id,
            $this->places[$b->kind][$b->field] ?? 0,
            $b->start,
        ];
    }
}
