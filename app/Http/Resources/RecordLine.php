<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Record;

/** A record in a list. */
final class RecordLine
{
    /** @return array<string, mixed> */
    public static function of(Record $record): array
    {
        return [
            'id' => $record->id,
            'kind' => $record->kind,
            'title' => $record->title,
            'address' => $record->address,
            'is_page' => $record->is_page,
            'state' => $record->recordState()->word(),
        ];
    }
}
