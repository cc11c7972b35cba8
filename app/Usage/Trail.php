<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\MediaItem;
use App\Models\MediaReference;
use App\Models\Record;
use App\Models\Site;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;

/** The way of one item to its visitors: files, the records that name them, their carriers, and the public pages. */
final class Trail
{
    /** More than this no drawing can show; the counts stay true. */
    private const RECORDS = 1500;

    /** @return array<string, mixed> */
    public function of(Site $site, MediaItem $item): array
    {
        $references = MediaReference::query()
            ->where('media_item_id', $item->id)
            ->with('address')
            ->orderBy('record_id')
            ->orderBy('start')
            ->limit(5000)
            ->get();
        // All of them, however many are drawn: the counts are true.
        $placed = array_values(
            array_map(
                intval(...),
                DB::table('media_references')
                    ->where('media_item_id', $item->id)
                    ->distinct()
                    ->orderBy('record_id')
                    ->pluck('record_id')
                    ->all(),
            ),
        );
        $index = new UsageIndex($site->id);
        $graph = $index->graph($placed);
        $pages = $graph->pagesOf($placed);
        $closure = $placed === [] ? [] : $index->closure($placed);
        $records = Record::query()
            ->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids($closure)])
            ->orderByRaw(
                'exists (select 1 from media_references m where m.record_id = records.id and m.media_item_id = ?) desc',
                [$item->id],
            )
            ->orderBy('kind')
            ->orderBy('title')
            ->limit(self::RECORDS)
            ->get();
        /** @var list<int> $shown */
        $shown = $records->pluck('id')->all();
        $edges =
            $shown === []
                ? []
                : DB::table('carrying')
                    ->whereRaw('carrier_id = any(cast(? as bigint[])) and carried_id = any(cast(? as bigint[]))', [
                        Sql::ids($shown),
                        Sql::ids($shown),
                    ])
                    ->distinct()
                    ->get(['carrier_id', 'carried_id', 'role'])
                    ->all();

        $boxes = (new Boxes())->of(array_values($references->all()));

        return [
            'files' => $item
                ->files()
                ->orderByDesc('is_original')
                ->orderByDesc('width')
                ->get(['id', 'path', 'width', 'height', 'size', 'is_original', 'sha256'])
                ->all(),
            'references' => $references
                ->map(
                    fn (MediaReference $r): array => [
                        'id' => $r->id,
                        'record_id' => $r->record_id,
                        'field' => $r->field,
                        'role' => $r->role,
                        'fetch' => $r->fetch,
                        'names' => $r->names,
                        'value' => $r->value,
                        'line' => $r->line,
                        'file_id' => $r->address?->file_id,
                        'outcome' => $r->outcome,
                        'sentence' => $r->sentence(),
                        'broken' => $r->outcomeKind()->isBroken(),
                        'box' => Placement::box($r),
                        'carrier_box' => ($boxes[$r->id]->carrier ?? null)?->__toString(),
                        'words' => Placement::words($r),
                    ],
                )
                ->all(),
            'records' => $records
                ->map(
                    static fn (Record $r): array => [
                        'id' => $r->id,
                        'kind' => $r->kind,
                        'key' => $r->key,
                        'title' => $r->title,
                        'address' => $r->address,
                        'is_page' => $r->is_page,
                        'everywhere' => $r->everywhere,
                        'state' => $r->recordState()->word(),
                        'meets' => $graph->stateOf($r->id)->word(),
                        'facts' => (object) $r->facts,
                    ],
                )
                ->all(),
            'carries' => array_map(
                static fn (stdClass $e): array => [
                    'from' => $e->carrier_id,
                    'to' => $e->carried_id,
                    'role' => $e->role,
                ],
                $edges,
            ),
            'mentions' => (new Mentioned($site))->of($item),
            'pages' => $pages,
            'reach' => count($pages),
            'cut' => count($closure) > self::RECORDS,
        ];
    }
}
