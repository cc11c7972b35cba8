<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\RecordLine;
use App\Http\Resources\ReferenceRow;
use App\Models\MediaReference;
use App\Models\Site;
use App\Usage\SiteFigures;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Ylema\Addresses\OutcomeKind;

/** Findings by cause, and what rests. */
final class PlaceController
{
    public function __construct(private readonly SiteFigures $figures)
    {
    }

    public function findings(Site $site): JsonResponse
    {
        return new JsonResponse(['families' => $this->figures->families($site)]);
    }

    /** The references of one family, one by one. */
    public function family(Request $request, Site $site, string $cause): JsonResponse
    {
        $kind = OutcomeKind::tryFrom($cause);
        abort_unless($kind !== null && $kind->isFinding(), 404);
        $request->validate([
            'after' => ['nullable', 'integer', 'min:0', 'max:9007199254740991'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:200'],
        ]);
        $limit = $request->integer('limit', 50);
        $rows = MediaReference::query()
            ->where('media_references.site_id', $site->id)
            ->where('outcome', $kind->value)
            ->where('media_references.id', '>', $request->integer('after'))
            ->leftJoin('media_items as i', 'i.id', '=', 'media_references.media_item_id')
            ->leftJoin(
                'files as f',
                fn ($join) => $join->on('f.media_item_id', '=', 'i.id')->where('f.is_original', true),
            )
            ->select(
                'media_references.*',
                'i.title as item_title',
                'i.path as item_path',
                'i.alt as item_alt',
                'i.standing',
                'f.id as original_id',
                'f.sha256',
                'f.mime',
                'f.width',
                'f.height',
            )
            ->with(['record', 'address'])
            ->orderBy('media_references.id')
            ->limit($limit)
            ->get();

        return new JsonResponse([
            'cause' => $kind->value,
            'title' => $kind->title(),
            'sentence' => $kind->cause(),
            'broken' => $kind->isBroken(),
            'total' => MediaReference::query()->where('site_id', $site->id)->where('outcome', $kind->value)->count(),
            'rows' => $rows
                ->map(
                    static fn (MediaReference $r): array => [
                        ...ReferenceRow::of($r),
                        'record' => RecordLine::of($r->record),
                    ],
                )
                ->all(),
            'next' => $rows->count() === $limit ? $rows->last()?->id : null,
        ]);
    }

    public function resting(Site $site): JsonResponse
    {
        return new JsonResponse($this->figures->resting($site));
    }
}
