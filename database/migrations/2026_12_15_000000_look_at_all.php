<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

return new class extends Migration
{
    public function up(): void
    {
        // Whether all public pages that a change reaches are looked at, as somebody asked for the rest of them.
        DB::statement('alter table changes add column look_at_all boolean not null default false');
    }

    public function down(): void
    {
        DB::statement('alter table changes drop column look_at_all');
    }
};
