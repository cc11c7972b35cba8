<?php

declare(strict_types=1);

namespace App\Backup;

use Illuminate\Support\Facades\Storage;

/** The folders of files that this installation keeps, beside its database. */
final readonly class Kept
{
    /** @return array<string, string> name → folder; what can be drawn again, as small pictures, is none of it */
    public static function folders(): array
    {
        return [
            'vault' => rtrim(Storage::disk('vault')->path(''), '/'),
            'rest' => rtrim(Storage::disk('rest')->path(''), '/'),
            'bags' => rtrim(Storage::disk('bags')->path(''), '/'),
            'uploads' => rtrim(Storage::disk('work')->path('uploads'), '/'),
        ];
    }

    /** Where a backup is put together, and taken apart: beside the files, so that they need not be copied for it. */
    public static function bench(): string
    {
        return storage_path('app/backup');
    }
}
