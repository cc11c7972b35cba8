<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\RecordLine;
use App\Http\Resources\ReferenceRow;
use App\Models\Link;
use App\Models\MediaReference;
use App\Models\Record;
use App\Models\Site;
use App\Usage\Find;
use App\Usage\Links;
use App\Usage\RecordFilter;
use App\Usage\Shown;
use App\Usage\UsageIndex;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use Ylema\Addresses\OutcomeKind;

/** Records: lists of them with what they show, and one with all that is known of it. */
final class RecordController
{
    /** Pictures in the strip of a record in a list. */
    private const STRIP = 8;

    /** References of one record that are named; more than that no page shows to a person. */
    private const EACH = 400;

    public function index(Request $request, Site $site): JsonResponse
    {
        $filter = self::filter($request, $site);
        $asked = $filter->asked();
        $query = $filter->query();
        $total = (clone $query)->count();
        $asked === null
            ? $query->orderByDesc('is_page')->orderBy('kind')->orderBy('title')->orderBy('id')
            : Find::recordsNearestFirst($query, $asked);
        $records = $query->offset($request->integer('offset'))->limit($request->integer('limit', 50))->get();
        /** @var list<int> $ids */
        $ids = $records->pluck('id')->all();
        $shown = (new Shown($site))->by($ids, 60);
        $common = self::common($shown);

        return new JsonResponse([
            'total' => $total,
            'records' => $records->map(static fn (Record $r): array => self::line($r, $shown[$r->id], $common))->all(),
        ]);
    }

    public function facets(Request $request, Site $site): JsonResponse
    {
        return new JsonResponse(self::filter($request, $site)->facets());
    }

    public function show(Site $site, Record $record): JsonResponse
    {
        $shown = new Shown($site);
        $own = $shown->by([$record->id], self::EACH)[$record->id];
        if ($record->is_page) {
            // The site's own code shows these on every page, whatever the page itself says.
            /** @var list<int> $everywhere */
            $everywhere = $site
                ->records()
                ->where('everywhere', true)
                ->where('id', '<>', $record->id)
                ->pluck('id')
                ->all();
            foreach ($shown->by($everywhere, self::EACH) as $id => $rows) {
                foreach ($rows as [$via, $reference]) {
                    $own[] = [[$id, ...$via], $reference];
                }
            }
        }
        $carriers = Record::query()
            ->whereIn('id', array_unique(array_merge([], ...array_column($own, 0))))
            ->get()
            ->keyBy('id');
        $index = new UsageIndex($site->id);
        $graph = $index->graph([$record->id]);
        [$reach, $pages] = $index->named([$record->id], 50);
        $above = Record::query()->whereIn(
            'id',
            DB::table('carrying')->where('carried_id', $record->id)->select('carrier_id'),
        );

        [$linked, $from] = (new Links($record))->to();
        [$lost, $nowhere] = (new Links($record))->nowhere();

        return new JsonResponse([
            ...RecordLine::of($record),
            'key' => $record->key,
            'everywhere' => $record->everywhere,
            'meets' => $graph->stateOf($record->id)->word(),
            'facts' => (object) $record->facts,
            'problems' => $record->problems,
            'shows' => array_map(
                static fn (array $entry): array => [
                    ...ReferenceRow::of($entry[1]),
                    'via' => array_map(
                        RecordLine::of(...),
                        array_values(array_filter(array_map($carriers->get(...), $entry[0]))),
                    ),
                ],
                $own,
            ),
            'carried_by' => [
                'total' => (clone $above)->count(),
                'records' => $above
                    ->orderBy('kind')
                    ->orderBy('title')
                    ->limit(50)
                    ->get()
                    ->map(RecordLine::of(...))
                    ->all(),
            ],
            'linked_from' => ['total' => $linked, 'records' => $from->map(RecordLine::of(...))->values()->all()],
            'leads_nowhere' => [
                'total' => $lost,
                'links' => $nowhere
                    ->map(static fn (Link $link): array => $link->only(['field', 'line', 'value']))
                    ->values()
                    ->all(),
            ],
            'reach' => $reach,
            'pages' => $pages,
        ]);
    }

    private static function filter(Request $request, Site $site): RecordFilter
    {
        /** @var array<string, mixed> $marks */
        $marks = $request->validate([
            'q' => ['nullable', 'string', 'max:2000'],
            'kind' => ['nullable', 'string', 'max:40'],
            'state' => ['nullable', Rule::in(['live', 'waiting', 'fading'])],
            'cause' => ['nullable', Rule::in(array_column(OutcomeKind::findings(), 'value'))],
            'trouble' => ['nullable', 'boolean'],
            'unread' => ['nullable', 'boolean'],
            'offset' => ['nullable', 'integer', 'min:0', 'max:2147483647'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:100'],
        ]);

        return new RecordFilter($site, $marks);
    }

    /**
     * @param  list<array{list<int>, MediaReference}>  $shown
     * @param  array<int, true>  $common items that say nothing of this record
     * @return array<string, mixed>
     */
    private static function line(Record $record, array $shown, array $common): array
    {
        $strip = [];
        $findings = 0;
        foreach ($shown as [$via, $reference]) {
            $findings += $via === [] && $reference->outcomeKind()->isFinding() ? 1 : 0;
            if ($reference->media_item_id !== null && ! isset($strip[$reference->media_item_id])) {
                $strip[$reference->media_item_id] = ReferenceRow::of($reference)['item'];
            }
        }

        return [
            ...RecordLine::of($record),
            'media' => count($strip),
            'findings' => $findings,
            'problems' => count(array_unique(array_column($record->problems, 'field'))),
            'strip' => array_values(array_slice(array_diff_key($strip, $common), 0, self::STRIP)),
        ];
    }

    /**
     * Items that most of the listed records show through carriers: the frame of the site, which tells none apart.
     *
     * @param  array<int, list<array{list<int>, MediaReference}>>  $shown
     * @return array<int, true>
     */
    private static function common(array $shown): array
    {
        $records = [];
        foreach ($shown as $id => $rows) {
            foreach ($rows as [$via, $reference]) {
                if ($via !== [] && $reference->media_item_id !== null) {
                    $records[$reference->media_item_id][$id] = true;
                }
            }
        }
        $many = max(4, intdiv(count($shown), 4));

        return array_map(
            static fn (): bool => true,
            array_filter($records, static fn (array $own): bool => count($own) >= $many),
        );
    }
}
