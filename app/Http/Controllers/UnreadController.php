<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Reading;
use App\Models\Record;
use App\Models\Site;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** What the last reading could not read, and why: records in pages, and files. */
final readonly class UnreadController
{
    private const PAGE = 100;

    public function __invoke(Request $request, Site $site): JsonResponse
    {
        $request->validate(['after' => ['nullable', 'integer', 'min:0']]);
        $records = Record::query()
            ->where('site_id', $site->id)
            ->where('id', '>', $request->integer('after'))
            ->whereRaw('jsonb_array_length(problems) > 0')
            ->orderBy('id')
            ->limit(self::PAGE + 1)
            ->get(['id', 'kind', 'key', 'title', 'problems']);
        $last = Reading::query()->where('site_id', $site->id)->where('state', 'done')->orderByDesc('id')->first();

        return new JsonResponse([
            'records' => $records->take(self::PAGE)->map(static fn (Record $record): array => [
                'id' => $record->id,
                'kind' => $record->kind,
                'title' => $record->title,
                'problems' => array_map(
                    static fn (array $problem): array => [...$problem, 'line' => $problem['line'] ?? null],
                    array_slice($record->problems, 0, 20),
                ),
            ])->all(),
            'next' => $records->count() > self::PAGE ? $records[self::PAGE - 1]?->id : null,
            // They come with the first page; a reading keeps a handful.
            'files' => $request->integer('after') > 0 ? [] : array_slice($last->unread ?? [], 0, 1000),
        ]);
    }
}
