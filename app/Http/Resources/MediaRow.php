<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\MediaFile;
use App\Models\MediaItem;
use Illuminate\Database\Eloquent\Builder;

/** A line of the ledger: the item with the facts of its original. */
final class MediaRow
{
    /**
     * @param  Builder<MediaItem>  $query with the original joined as `original`
     * @return Builder<MediaItem>
     */
    public static function columns(Builder $query): Builder
    {
        return $query
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
            );
    }

    /** @return array<string, mixed> */
    public static function of(MediaItem $item): array
    {
        return [
            'id' => $item->id,
            'path' => $item->path,
            'title' => $item->title,
            'alt' => $item->alt,
            'standing' => $item->standing,
            'verdict' => $item->verdict,
            'because' => $item->verdict_by,
            'reach' => $item->reach,
            'uses' => $item->uses,
            'broken' => $item->broken,
            'use_kinds' => (object) $item->use_kinds,
            'file_id' => $item->getAttribute('file_id'),
            'width' => $item->getAttribute('width'),
            'height' => $item->getAttribute('height'),
            'mime' => $item->getAttribute('mime'),
            'weight' => $item->getAttribute('weight'),
            'file_count' => (int) $item->getAttribute('file_count'),
            'sha256' => $item->getAttribute('sha256'),
        ];
    }
}
