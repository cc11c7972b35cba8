<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Links of records to pages of the site. They show nothing, so they never count as references to media. */
return new class extends Migration
{
    public function up(): void
    {
        $place = static function (Blueprint $table): void {
            $table->string('field', 60);
            $table->integer('start');
            $table->integer('length');
            $table->text('value');
            $table->string('role', 60);
            $table->integer('line');
            $table->text('path');
            $table->text('query')->default('');
        };
        Schema::create('staged_links', function (Blueprint $table) use ($place): void {
            $table->foreignId('reading_id')->constrained()->cascadeOnDelete();
            $table->bigInteger('chunk_id');
            $table->string('kind', 40);
            $table->text('key');
            $place($table);
            $table->index('chunk_id');
            $table->index('reading_id');
        });
        Schema::create('links', function (Blueprint $table) use ($place): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->foreignId('record_id')->constrained('records')->cascadeOnDelete();
            $place($table);
            $table->bigInteger('page_id')->nullable();
            $table->index('record_id');
            $table->index('page_id');
            $table->index('site_id');
        });
        DB::statement(
            "create index records_pages_by_address on records (site_id, (rtrim(address, '/'))) where is_page",
        );
    }

    public function down(): void
    {
        DB::statement('drop index records_pages_by_address');
        Schema::drop('links');
        Schema::drop('staged_links');
    }
};
