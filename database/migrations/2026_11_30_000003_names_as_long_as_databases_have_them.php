<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

/** A site's tables and columns may have names of 64 characters, and its kinds and fields are called like them. */
return new class extends Migration
{
    private const COLUMNS = [
        'records' => ['kind'],
        'media_references' => ['field', 'role', 'target_kind'],
        'links' => ['field', 'role'],
        'sightings' => ['role'],
        'reading_chunks' => ['kind'],
        'staged_records' => ['kind'],
        'staged_references' => ['kind', 'field', 'role', 'target_kind'],
        'staged_links' => ['kind', 'field', 'role'],
        'former_pages' => ['kind'],
        'left_behind' => ['kind'],
        'plan_steps' => ['record_kind'],
    ];

    public function up(): void
    {
        // A view holds on to the types of its columns, so it goes and comes back as it was.
        $views = [];
        foreach (['findings', 'carrying'] as $view) {
            $views[$view] = DB::scalar('select pg_get_viewdef(cast(? as regclass))', [$view]);
            DB::statement("drop view $view");
        }
        foreach (self::COLUMNS as $table => $columns) {
            $types = array_map(static fn (string $column): string => "alter $column type text", $columns);
            DB::statement("alter table $table ".implode(', ', $types));
        }
        foreach ($views as $view => $definition) {
            DB::statement("create view $view as $definition");
        }
    }
};
