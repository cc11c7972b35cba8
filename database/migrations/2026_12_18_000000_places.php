<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use Illuminate\Support\Str;

return new class extends Migration
{
    public function up(): void
    {
        // By this id an installation knows its own folders again; it goes with its database, also through a backup.
        Schema::create('installation', function (Blueprint $table): void {
            $table->uuid('id')->primary();
        });
        DB::table('installation')->insert(['id' => (string) Str::uuid()]);
        // The folders that were marked with it: one without a mark is another one, or not mounted.
        Schema::create('places', function (Blueprint $table): void {
            $table->text('name')->primary();
            $table->timestampTz('marked_at');
        });
    }

    public function down(): void
    {
        DB::statement('drop table places, installation');
    }
};
