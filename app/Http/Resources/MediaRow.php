<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\MediaItem;

/** A line of the ledger: the item with the facts of its original. */
final class MediaRow
{
    /** @return array<string, mixed> */
    public static function of(MediaItem $item): array
    {
        return [
            'id' => $item->id,
            'path' => $item->path,
            'title' => $item->title,
            'alt' => $item->alt,
            'standing' => $item->standing,
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
