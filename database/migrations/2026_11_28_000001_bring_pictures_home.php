<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Files of other hosts: what was fetched of them, and how far the fetching is. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('foreign_files', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->char('url_hash', 32);
            $table->text('url');
            $table->text('host');
            // Why it cannot be had; null where its bytes are kept.
            $table->text('reason')->nullable();
            $table->char('sha256', 64)->nullable();
            $table->bigInteger('weight')->nullable();
            $table->string('extension', 8)->nullable();
            $table->integer('width')->nullable();
            $table->integer('height')->nullable();
            $table->boolean('animated')->default(false);
            $table->text('credit')->default('');
            $table->timestampTz('fetched_at');
            $table->unique(['site_id', 'url_hash']);
            $table->index(['site_id', 'host']);
        });
        // What items were called whose rows are gone: an id that names nothing any more may mean one of that name.
        Schema::create('former_items', function (Blueprint $table): void {
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->string('source_id', 100);
            $table->text('path');
            $table->text('title')->default('');
            $table->timestampTz('gone_at');
            $table->unique(['site_id', 'source_id']);
        });
        Schema::create('adoptions', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->string('state', 12);
            $table->jsonb('hosts');
            $table->bigInteger('after_id')->default(0);
            $table->integer('expected')->default(0);
            $table->jsonb('totals')->default('{}');
            $table->boolean('stop_asked')->default(false);
            $table->text('problem')->nullable();
            $table->foreignId('started_by')->nullable()->constrained('users')->nullOnDelete();
            $table->timestampTz('started_at');
            $table->timestampTz('worked_at');
            $table->timestampTz('finished_at')->nullable();
            $table->index(['site_id', 'id']);
        });
        DB::statement(
            "create unique index adoptions_one_at_a_time on adoptions (site_id) where state in ('waiting', 'running')",
        );
        DB::statement(
            "create index addresses_by_host on addresses (site_id, (substring(url from '^[a-z]+://([^/:?#]+)'))) "
                ."where outcome = 'foreign-host'",
        );
    }
};
