<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\MediaRow;
use App\Models\MediaFile;
use App\Models\MediaItem;
use App\Models\Site;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\Rule;

final class MediaController
{
    private const SORTS = [
        'reach' => 'media_items.reach desc, media_items.uses desc, '.'media_items.id',
        'uses' => 'media_items.uses desc, media_items.id',
        'name' => 'media_items.path',
        'weight' => 'weight desc nulls last, media_items.id',
        'broken' => 'media_items.broken desc, media_items.reach '.'desc, media_items.id',
    ];

    public function index(Request $request, Site $site): JsonResponse
    {
        $filters = $request->validate([
            'q' => ['nullable', 'string', 'max:200'],
            'standing' => ['nullable', Rule::in(['live', 'waiting', 'fading', 'idle'])],
            'folder' => ['nullable', 'string', 'max:500'],
            'type' => ['nullable', 'string', 'max:20'],
            'use' => ['nullable', 'string', 'max:20'],
            'trouble' => ['nullable', 'boolean'],
            'sort' => ['nullable', Rule::in(array_keys(self::SORTS))],
            'offset' => ['nullable', 'integer', 'min:0'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:200'],
        ]);
        $query = $this->filtered($site, $filters);
        $total = (clone $query)->count();
        $rows = $query
            ->leftJoin(
                'files as original',
                fn ($join) => $join
                    ->on('original.media_item_id', '=', 'media_items.id')
                    ->where('original.is_original', true),
            )
            ->select(
                'media_items.*',
                'original.id as file_id',
                'original.width',
                'original.height',
                'original.mime',
                'original.size as weight',
                'original.sha256',
            )
            ->selectSub(
                MediaFile::query()->selectRaw('count(*)')->whereColumn('files.media_item_id', 'media_items.id'),
                'file_count',
            )
            ->when(
                $request->filled('q') && ! $request->filled('sort'),
                fn (Builder $found): Builder => self::nearestFirst($found, $request->string('q')->trim()->toString()),
            )
            ->orderByRaw(self::SORTS[$request->string('sort', 'reach')->toString()])
            ->offset($request->integer('offset'))
            ->limit($request->integer('limit', 100))
            ->get();

        return new JsonResponse(['total' => $total, 'items' => $rows->map(MediaRow::of(...))->all()]);
    }

    public function facets(Request $request, Site $site): JsonResponse
    {
        $count = static fn (string $expression): array => array_map(
            static fn (object $row): array => [
                'value' => (string) ($row->value ?? ''),
                'count' => (int) ($row->count ?? 0),
            ],
            MediaItem::query()
                ->where('media_items.site_id', $site->id)
                ->leftJoin(
                    'files',
                    fn ($join) => $join
                        ->on('files.media_item_id', '=', 'media_items.id')
                        ->where('files.is_original', true),
                )
                ->selectRaw("$expression as value, count(*) as count")
                ->groupByRaw('1')
                ->orderByRaw('1')
                ->toBase()
                ->get()
                ->all(),
        );

        return new JsonResponse([
            'standing' => $count('media_items.standing'),
            'folder' => $count("regexp_replace(media_items.path, '/[^/]*$', '')"),
            'type' => $count("coalesce(regexp_replace(files.mime, '^.*/|\\+xml$', '', 'g'), 'missing')"),
            'use' => array_map(
                static fn (object $row): array => [
                    'value' => (string) ($row->value ?? ''),
                    'count' => (int) ($row->count ?? 0),
                ],
                MediaItem::query()
                    ->fromRaw('media_items cross join lateral jsonb_object_keys(use_kinds) as k')
                    ->where('site_id', $site->id)
                    ->selectRaw('k as value, count(*) as count')
                    ->groupByRaw('1')
                    ->orderByRaw('1')
                    ->toBase()
                    ->get()
                    ->all(),
            ),
            'trouble' => MediaItem::query()->where('site_id', $site->id)->where('broken', '>', 0)->count(),
        ]);
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
            'reach' => $mediaItem->reach,
            'uses' => $mediaItem->uses,
            'broken' => $mediaItem->broken,
            'use_kinds' => (object) $mediaItem->use_kinds,
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

    /**
     * A pasted address means the file that it leads to, an original or any rendition. Of other words each may stand
     * in any of the texts, and all of them must be found.
     *
     * @param  Builder<MediaItem>  $query
     */
    private function matching(Builder $query, Site $site, string $q): void
    {
        if (preg_match('~^(?:https?:)?//~i', $q) === 1) {
            $path = $site->addresses()->locate($q)->path ?? '';
            $query->where(
                fn ($either) => $either
                    ->where('media_items.path', $path)
                    ->orWhereExists(
                        fn ($f) => $f
                            ->from('files')
                            ->whereColumn('files.media_item_id', 'media_items.id')
                            ->where('files.path', $path),
                    ),
            );

            return;
        }
        foreach (preg_split('~\s+~', $q) ?: [] as $word) {
            $like = '%'.addcslashes($word, '%_\\').'%';
            $query->whereRaw(
                "(media_items.path || ' ' || media_items.title || ' ' || media_items.alt || ' ' || "
                    ."media_items.caption || ' ' || media_items.credit || ' ' || media_items.tags::text) ilike ?",
                [$like],
            );
        }
    }

    /**
     * Whoever types a name means the item of that name before those that only mention it.
     *
     * @param  Builder<MediaItem>  $query
     * @return Builder<MediaItem>
     */
    private static function nearestFirst(Builder $query, string $q): Builder
    {
        $like = addcslashes($q, '%_\\');

        return $query->orderByRaw(
            'case when media_items.title ilike ? then 0 when media_items.title ilike ? then 1 when media_items.path '
                .'ilike ? then 2 else 3 end',
            ["$like%", "%$like%", "%$like%"],
        );
    }

    /**
     * @param  array<string, mixed>  $filters
     * @return Builder<MediaItem>
     */
    private function filtered(Site $site, array $filters): Builder
    {
        $text = static fn (string $name): ?string => is_string($filters[$name] ?? null) && $filters[$name] !== ''
            ? $filters[$name]
            : null;
        $query = MediaItem::query()->where('media_items.site_id', $site->id);
        if (($q = $text('q')) !== null) {
            $this->matching($query, $site, trim($q));
        }
        if (($standing = $text('standing')) !== null) {
            $query->where('media_items.standing', $standing);
        }
        if (($folder = $text('folder')) !== null) {
            $query->whereRaw("regexp_replace(media_items.path, '/[^/]*$', '') = ?", [$folder]);
        }
        if (($use = $text('use')) !== null) {
            $query->whereRaw('jsonb_exists(media_items.use_kinds, ?)', [$use]);
        }
        if (($type = $text('type')) !== null) {
            $type === 'missing'
                ? $query->whereNotExists(
                    fn ($q) => $q
                        ->from('files')
                        ->whereColumn('files.media_item_id', 'media_items.id')
                        ->where('files.is_original', true),
                )
                : $query->whereExists(
                    fn ($q) => $q
                        ->from('files')
                        ->whereColumn('files.media_item_id', 'media_items.id')
                        ->where('files.is_original', true)
                        ->whereRaw("regexp_replace(files.mime, '^.*/|\\+xml$', '', 'g') = ?", [$type]),
                );
        }
        if (($filters['trouble'] ?? false) && $filters['trouble'] !== '0') {
            $query->where('media_items.broken', '>', 0);
        }

        return $query;
    }
}
