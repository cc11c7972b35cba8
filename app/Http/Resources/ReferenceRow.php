<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\MediaReference;
use App\Usage\Placement;

/** One placement: what it names, how it is placed, and what comes of following it. */
final class ReferenceRow
{
    /**
     * @param  MediaReference  $reference with `item_title`, `item_path`, `original_id` and so on of its item
     * @return array<string, mixed>
     */
    public static function of(MediaReference $reference): array
    {
        $of = static fn (string $name): mixed => $reference->getAttribute($name);

        return [
            'id' => $reference->id,
            'record_id' => $reference->record_id,
            'role' => $reference->role,
            'names' => $reference->names,
            'value' => $reference->value,
            'field' => $reference->field,
            'line' => $reference->line,
            'box' => Placement::box($reference),
            'words' => Placement::words($reference),
            'outcome' => $reference->outcome,
            'finding' => $reference->outcomeKind()->isFinding(),
            'sentence' => $reference->sentence(),
            'broken' => $reference->outcomeKind()->isBroken(),
            'item' => $reference->media_item_id === null
                    ? null
                    : [
                        'id' => $reference->media_item_id,
                        'title' => (string) $of('item_title'),
                        'path' => (string) $of('item_path'),
                        'alt' => (string) $of('item_alt'),
                        'standing' => (string) $of('standing'),
                        'file_id' => $of('original_id'),
                        'sha256' => $of('sha256'),
                        'mime' => $of('mime'),
                        'width' => $of('width'),
                        'height' => $of('height'),
                    ],
        ];
    }
}
