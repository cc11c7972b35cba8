<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

return new class extends Migration
{
    public function up(): void
    {
        // The way back that was taken where a step was undone among later ones, and the change that stood in its way.
        DB::statement('alter table plan_steps add column back jsonb, add column stands_on bigint');
        // The change that is undone before this one, where both were asked for.
        DB::statement('alter table changes add column undo_after bigint');
        DB::statement('create index changes_undo_after on changes (undo_after) where undo_after is not null');
        DB::statement(
            "create index plan_steps_record on plan_steps (record_key, record_kind) where kind = 'edit-record'",
        );
    }

    public function down(): void
    {
        DB::statement('drop index plan_steps_record');
        DB::statement('alter table plan_steps drop column back, drop column stands_on');
        DB::statement('alter table changes drop column undo_after');
    }
};
