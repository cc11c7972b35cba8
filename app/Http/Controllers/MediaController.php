<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\MediaRow;
use App\Models\MediaFile;
use App\Models\MediaItem;
use App\Models\Site;
use App\Retire\Proofs;
use App\Usage\Find;
use App\Usage\MediaFilter;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use Ylema\Retire\ProofSheet;
use Ylema\Retire\ProofSource;

final class MediaController
{
    private const SORTS = [
        'reach' => 'media_items.reach desc, media_items.uses desc, media_items.id',
        'uses' => 'media_items.uses desc, media_items.id',
        'name' => 'media_items.path, media_items.id',
        'weight' => 'original.size desc nulls last, media_items.id',
        'broken' => 'media_items.broken desc, media_items.reach desc, media_items.id',
        'same' => 'original.sha256, media_items.id',
    ];

    public function index(Request $request, Site $site): JsonResponse
    {
        $filter = self::filter($request, $site);
        $request->validate([
            'sort' => ['nullable', Rule::in(array_keys(self::SORTS))],
            'offset' => ['nullable', 'integer', 'min:0', 'max:2147483647'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:200'],
        ]);
        $query = $filter->query();
        $total = (clone $query)->count();
        $asked = $filter->asked();
        if ($asked !== null && ! $request->filled('sort')) {
            Find::itemsNearestFirst($query, $asked);
        }
        $sort = $request->filled('sort') ? $request->string('sort')->toString() : 'reach';
        $rows = MediaRow::columns($query)
            ->orderByRaw(self::SORTS[$sort])
            ->offset($request->integer('offset'))
            ->limit($request->integer('limit', 100))
            ->get();

        return new JsonResponse(['total' => $total, 'items' => $rows->map(MediaRow::of(...))->all()]);
    }

    public function facets(Request $request, Site $site): JsonResponse
    {
        return new JsonResponse(self::filter($request, $site)->facets());
    }

    public function show(Site $site, MediaItem $mediaItem): JsonResponse
    {
        $files = $mediaItem->files()->orderByDesc('is_original')->orderByDesc('width')->get();
        $original = $files->firstWhere('is_original', true);

        return new JsonResponse([
            'id' => $mediaItem->id,
            'source_id' => $mediaItem->source_id,
            'path' => $mediaItem->path,
            'title' => $mediaItem->title,
            'alt' => $mediaItem->alt,
            'caption' => $mediaItem->caption,
            'credit' => $mediaItem->credit,
            'tags' => $mediaItem->tags,
            'standing' => $mediaItem->standing,
            'verdict' => $mediaItem->verdict,
            'reach' => $mediaItem->reach,
            'uses' => $mediaItem->uses,
            'broken' => $mediaItem->broken,
            'use_kinds' => (object) $mediaItem->use_kinds,
            // Pages that were seen to show it, though no record that was read names it there.
            'seen_on' => self::seenOn($site, $mediaItem),
            'file_id' => $original?->id,
            'width' => $original?->width,
            'height' => $original?->height,
            'mime' => $original?->mime,
            'weight' => $original?->size,
            'sha256' => $original?->sha256,
            'files' => $files
                ->map(
                    static fn (MediaFile $f): array => [
                        'id' => $f->id,
                        'path' => $f->path,
                        'width' => $f->width,
                        'height' => $f->height,
                        'weight' => $f->size,
                        'is_original' => $f->is_original,
                        'sha256' => $f->sha256,
                    ],
                )
                ->all(),
            'twins' => $original === null
                    ? []
                    : MediaFile::query()
                        ->where('site_id', $site->id)
                        ->where('sha256', $original->sha256)
                        ->where('id', '<>', $original->id)
                        ->where('is_original', true)
                        ->limit(20)
                        ->get()
                        ->map(
                            static fn (MediaFile $f): array => [
                                'media_item_id' => $f->media_item_id,
                                'path' => $f->path,
                            ],
                        )
                        ->all(),
        ]);
    }

    /** What speaks for and against it, and for each of its files. */
    public function proof(Site $site, MediaItem $mediaItem): JsonResponse
    {
        $sheets = (new Proofs($site->id))->sheets([$mediaItem->id])[$mediaItem->id] ?? null;
        $asked = DB::table('asked_for')
            ->where('site_id', $site->id)
            ->whereIn('path', $mediaItem->files()->select('path'))
            ->pluck('pages');
        $pages = [];
        foreach ($asked as $json) {
            $own = json_decode(is_string($json) ? $json : '', true);
            foreach (is_array($own) ? $own : [] as $page => $count) {
                $pages[$page] = ($pages[$page] ?? 0) + (is_int($count) ? $count : 0);
            }
        }
        arsort($pages);

        return new JsonResponse([
            'verdict' => $sheets === null ? 'ask' : $sheets['sheet']->verdict->value,
            'words' => $sheets === null ? '' : $sheets['sheet']->verdict->words(),
            'lines' => $sheets === null ? [] : $sheets['sheet']->toArray(),
            'files' => array_map(
                static fn (int $id, ProofSheet $sheet): array => [
                    'id' => $id,
                    'verdict' => $sheet->verdict->value,
                    'reason' => $sheet->reason?->sentence,
                ],
                array_keys($sheets['files'] ?? []),
                array_values($sheets['files'] ?? []),
            ),
            'pages' => array_map(
                static fn (string|int $page, int $count): array => ['page' => (string) $page, 'count' => $count],
                array_keys($pages),
                array_values($pages),
            ),
        ]);
    }

    private static function filter(Request $request, Site $site): MediaFilter
    {
        return new MediaFilter(
            $site,
            $request->validate([
                'q' => ['nullable', 'string', 'max:2000'],
                'standing' => ['nullable', Rule::in(['live', 'waiting', 'fading', 'idle'])],
                'proof' => ['nullable', Rule::in(['safe', 'ask', 'needed'])],
                'because' => ['nullable', Rule::in(array_column(ProofSource::cases(), 'value'))],
                'year' => ['nullable', 'regex:~^\d{4}$~'],
                'folder' => ['nullable', 'string', 'max:500'],
                'type' => ['nullable', 'string', 'max:20'],
                'use' => ['nullable', 'string', 'max:20'],
                'trouble' => ['nullable', 'boolean'],
                'copies' => ['nullable', 'boolean'],
                'large' => ['nullable', 'boolean'],
                'left' => ['nullable', 'boolean'],
                'unlisted' => ['nullable', 'boolean'],
                'mentioned' => ['nullable', 'boolean'],
                'like' => ['nullable', 'integer', 'min:1', 'max:9007199254740991'],
            ]),
        );
    }

    private static function seenOn(Site $site, MediaItem $item): int
    {
        return DB::table('sightings')
            ->where('site_id', $site->id)
            ->whereIn('path', $item->files()->select('path'))
            ->where('seen', true)
            ->where('mapped', false)
            ->distinct()
            ->count('record_id');
    }
}
