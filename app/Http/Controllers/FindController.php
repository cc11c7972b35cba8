<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\MediaRow;
use App\Http\Resources\RecordLine;
use App\Models\MediaFile;
use App\Models\Record;
use App\Models\Site;
use App\Usage\Asked;
use App\Usage\Find;
use App\Usage\MediaFilter;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** One question, asked of items, files and records at once. */
final class FindController
{
    public function __invoke(Request $request, Site $site): JsonResponse
    {
        $request->validate([
            'q' => ['required', 'string', 'max:2000'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:100'],
        ]);
        $text = $request->string('q')->toString();
        $limit = $request->integer('limit', 5);
        $asked = Asked::of($site, $text);
        $items = (new MediaFilter($site, ['q' => $text]))->query();
        $files = Find::files(MediaFile::query()->where('files.site_id', $site->id), $asked);
        $records = Find::records(Record::query()->where('records.site_id', $site->id), $asked);

        return new JsonResponse([
            'q' => $text,
            'items' => [
                'total' => (clone $items)->count(),
                'items' => MediaRow::columns(Find::itemsNearestFirst($items, $asked))
                    ->limit($limit)
                    ->get()
                    ->map(MediaRow::of(...))
                    ->all(),
            ],
            'files' => [
                'total' => (clone $files)->count(),
                'files' => $files->orderBy('files.path')->limit($limit)->get()->map(self::file(...))->all(),
            ],
            'records' => [
                'total' => (clone $records)->count(),
                'records' => Find::recordsNearestFirst($records, $asked)
                    ->limit($limit)
                    ->get()
                    ->map(RecordLine::of(...))
                    ->all(),
            ],
        ]);
    }

    /** @return array<string, mixed> */
    private static function file(MediaFile $file): array
    {
        return [
            'id' => $file->id,
            'media_item_id' => $file->media_item_id,
            'path' => $file->path,
            'width' => $file->width,
            'height' => $file->height,
            'weight' => $file->size,
            'mime' => $file->mime,
            'sha256' => $file->sha256,
        ];
    }
}
