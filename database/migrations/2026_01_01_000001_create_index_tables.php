<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** The index: what a reading found. Everything here can be made again by reading the site. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('sites', function (Blueprint $table): void {
            $table->id();
            $table->string('slug')->unique();
            $table->string('name');
            $table->string('address');
            $table->jsonb('former')->default('[]');
            $table->text('field_map');
            $table->text('connection');
            $table->jsonb('reach_at')->default('{}');
            $table->timestampTz('read_at')->nullable();
            $table->timestamps();
        });
        Schema::create('readings', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->string('state', 16);
            $table->string('stage', 40)->default('');
            $table->string('batch_id')->nullable();
            $table->foreignId('started_by')->nullable()->constrained('users')->nullOnDelete();
            $table->text('problem')->nullable();
            $table->jsonb('totals')->default('{}');
            $table->timestampTz('started_at');
            $table->timestampTz('finished_at')->nullable();
            $table->index(['site_id', 'id']);
        });
        // One reading at a time for each site, whatever races.
        DB::statement(
            "create unique index readings_one_at_a_time on readings (site_id) where state in ('queued', 'reading', "
                ."'landing')",
        );
        Schema::create('reading_chunks', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('reading_id')->constrained()->cascadeOnDelete();
            $table->string('kind', 40);
            $table->text('after_key')->nullable();
            $table->text('to_key')->nullable();
            $table->boolean('done')->default(false);
            $table->integer('records')->default(0);
            $table->integer('changed')->default(0);
            $table->integer('refs')->default(0);
            $table->jsonb('problems')->default('[]');
            $table->index(['reading_id', 'done']);
        });

        Schema::create('files', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->text('path');
            $table->text('fold');
            $table->text('name_fold');
            $table->bigInteger('size');
            $table->bigInteger('modified');
            $table->char('sha256', 64);
            $table->integer('width')->nullable();
            $table->integer('height')->nullable();
            $table->string('mime', 60);
            $table->bigInteger('media_item_id')->nullable();
            $table->boolean('is_original')->default(false);
            $table->unique(['site_id', 'path']);
            $table->index(['site_id', 'fold']);
            $table->index(['site_id', 'name_fold']);
            $table->index('media_item_id');
        });
        Schema::create('media_items', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->string('source_id')->nullable();
            $table->text('path');
            $table->text('title')->default('');
            $table->text('alt')->default('');
            $table->text('caption')->default('');
            $table->text('credit')->default('');
            $table->text('folder')->default('');
            $table->jsonb('tags')->default('[]');
            $table->jsonb('renditions')->default('[]');
            $table->float('focus_x')->nullable();
            $table->float('focus_y')->nullable();
            $table->char('hash', 32)->default('');
            // What follows is worked out from references and carriers at the end of each reading.
            $table->string('standing', 10)->default('idle');
            $table->integer('reach')->default(0);
            $table->integer('uses')->default(0);
            $table->integer('broken')->default(0);
            $table->jsonb('use_kinds')->default('{}');
            $table->unique(['site_id', 'path']);
            $table->index(['site_id', 'source_id']);
            $table->index(['site_id', 'standing']);
        });
        Schema::create('records', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->string('kind', 40);
            $table->text('key');
            $table->text('title');
            $table->text('address')->nullable();
            $table->boolean('is_page')->default(false);
            $table->boolean('everywhere')->default(false);
            $table->smallInteger('state');
            $table->char('hash', 32);
            $table->char('content_hash', 64);
            $table->jsonb('facts')->default('{}');
            $table->jsonb('problems')->default('[]');
            $table->unique(['site_id', 'kind', 'key']);
        });
        Schema::create('addresses', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->char('url_hash', 32);
            $table->text('url');
            $table->string('outcome', 24)->nullable();
            $table->text('path')->nullable();
            $table->text('asked')->nullable();
            $table->jsonb('candidates')->default('[]');
            $table->bigInteger('file_id')->nullable();
            $table->bigInteger('media_item_id')->nullable();
            $table->unique(['site_id', 'url_hash']);
            $table->index(['site_id', 'outcome']);
            $table->index('media_item_id');
        });
        Schema::create('media_references', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->foreignId('record_id')->constrained('records')->cascadeOnDelete();
            $table->string('field', 60);
            $table->integer('start');
            $table->integer('length');
            $table->text('value');
            $table->string('names', 12);
            $table->string('role', 60);
            $table->string('fetch', 16);
            $table->string('layers', 120);
            $table->integer('line');
            $table->integer('col');
            $table->jsonb('context');
            $table->string('target_kind', 40)->nullable();
            $table->bigInteger('target_record_id')->nullable();
            $table->bigInteger('address_id')->nullable();
            $table->bigInteger('media_item_id')->nullable();
            $table->index('record_id');
            $table->index('address_id');
            $table->index('media_item_id');
            $table->index('target_record_id');
        });

        // A reading gathers here and lands in one transaction, so that the index is never half of one reading.
        foreach (['staged_records', 'staged_references', 'staged_files', 'staged_media'] as $name) {
            Schema::create($name, function (Blueprint $table) use ($name): void {
                $table->foreignId('reading_id')->constrained()->cascadeOnDelete();
                if ($name === 'staged_files') {
                    $table->text('path');
                    $table->text('fold');
                    $table->text('name_fold');
                    $table->bigInteger('size');
                    $table->bigInteger('modified');
                    $table->char('sha256', 64)->nullable();
                    $table->integer('width')->nullable();
                    $table->integer('height')->nullable();
                    $table->string('mime', 60)->nullable();
                } elseif ($name === 'staged_media') {
                    $table->text('path');
                    $table->string('source_id');
                    $table->char('hash', 32);
                    $table->jsonb('row');
                } else {
                    $table->bigInteger('chunk_id');
                    $table->string('kind', 40);
                    $table->text('key');
                    if ($name === 'staged_records') {
                        $table->boolean('changed');
                        $table->text('title')->nullable();
                        $table->text('address')->nullable();
                        $table->boolean('is_page')->default(false);
                        $table->boolean('everywhere')->default(false);
                        $table->smallInteger('state')->nullable();
                        $table->char('hash', 32)->nullable();
                        $table->char('content_hash', 64)->nullable();
                        $table->jsonb('facts')->nullable();
                        $table->jsonb('problems')->nullable();
                    } else {
                        $table->string('field', 60);
                        $table->integer('start');
                        $table->integer('length');
                        $table->text('value');
                        $table->string('names', 12);
                        $table->string('role', 60);
                        $table->string('fetch', 16);
                        $table->string('layers', 120);
                        $table->integer('line');
                        $table->integer('col');
                        $table->jsonb('context');
                        $table->string('target_kind', 40)->nullable();
                        $table->text('url')->nullable();
                        $table->char('url_hash', 32)->nullable();
                    }
                }
                $table->index('reading_id');
            });
        }
    }
};
