<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** What speaks for and against a file, files at rest with all that brings them back, and the bags of the archive. */
return new class extends Migration
{
    public function up(): void
    {
        foreach (['media_items', 'files'] as $name) {
            Schema::table($name, function (Blueprint $table): void {
                // What its proof sheet came to when the site was last looked at, and which line of it decided.
                $table->string('verdict', 8)->default('ask');
                $table->string('verdict_by', 8)->nullable();
            });
        }
        DB::statement('create index sightings_seen on sightings (site_id, path) where seen');
        Schema::table('media_items', function (Blueprint $table): void {
            $table->index(['site_id', 'verdict']);
        });
        $mention = static function (Blueprint $table): void {
            $table->text('code_path');
            $table->integer('line');
            $table->text('said');
            $table->text('name_fold');
        };
        Schema::create('code_mentions', function (Blueprint $table) use ($mention): void {
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $mention($table);
            $table->index(['site_id', 'name_fold']);
        });
        Schema::create('staged_mentions', function (Blueprint $table) use ($mention): void {
            $table->foreignId('reading_id')->constrained()->cascadeOnDelete();
            $mention($table);
            $table->index('reading_id');
        });
        // How pictures look, by their bytes; kept when a file rests, since the archive is searched by it, too.
        Schema::create('looks', function (Blueprint $table): void {
            $table->char('sha256', 64)->primary();
            $table->bigInteger('print');
            $table->binary('cells');
            // Nothing to be told by: an even surface, or what could not be opened.
            $table->boolean('plain')->default(false);
        });
        Schema::create('alike', function (Blueprint $table): void {
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->integer('group_no');
            $table->foreignId('media_item_id')->constrained('media_items')->cascadeOnDelete();
            // What it is to the keeper: keeper, bytes, picture or part.
            $table->string('how', 8);
            $table->text('reason')->default('');
            $table->unique(['site_id', 'media_item_id']);
            $table->index(['site_id', 'group_no']);
        });
        // Access logs: how far each was read, told by its first line; nothing of anybody who asked.
        Schema::create('log_files', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->text('name');
            $table->char('begins', 64);
            $table->bigInteger('bytes')->default(0);
            $table->bigInteger('lines')->default(0);
            $table->bigInteger('broken')->default(0);
            $table->text('example')->default('');
            $table->bigInteger('requests')->default(0);
            $table->timestampTz('from_at')->nullable();
            $table->timestampTz('until_at')->nullable();
            $table->text('problem')->nullable();
            $table->timestampTz('read_at');
            $table->unique(['site_id', 'begins']);
        });
        Schema::create('asked_for', function (Blueprint $table): void {
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->text('path');
            $table->bigInteger('visitors')->default(0);
            $table->bigInteger('other_sites')->default(0);
            $table->bigInteger('mail')->default(0);
            $table->bigInteger('robots')->default(0);
            $table->bigInteger('missed')->default(0);
            $table->timestampTz('last_at')->nullable();
            $table->timestampTz('last_person_at')->nullable();
            $table->jsonb('pages')->default('{}');
        });
        // A request may name any path, also one that is longer than an index takes.
        DB::statement('create unique index asked_for_path on asked_for (site_id, md5(path))');
        Schema::table('sites', function (Blueprint $table): void {
            // What of the site's own code was read: how many files, how many could not be; null where no map says
            // where it is.
            $table->jsonb('code')->nullable();
            // How long files rest, what becomes of their rows, whether a called one comes back by itself, where bags
            // and logs lie.
            $table->jsonb('keeping')->default('{}');
        });
        Schema::create('bags', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->string('name', 80)->unique();
            $table->string('state', 12);
            $table->integer('files')->default(0);
            $table->bigInteger('weight')->default(0);
            $table->timestampTz('made_at');
            $table->timestampTz('verified_at')->nullable();
            // What the last look at it found damaged.
            $table->jsonb('trouble')->default('[]');
            $table->index(['site_id', 'id']);
        });
        Schema::create('bag_files', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('bag_id')->constrained('bags')->cascadeOnDelete();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->text('path');
            $table->char('sha256', 64);
            $table->bigInteger('size');
            $table->jsonb('file');
            // Where it lies, from the bag's own folder.
            $table->text('payload');
            $table->text('item');
            $table->text('title')->default('');
            $table->string('mime', 60)->default('');
            $table->integer('width')->nullable();
            $table->integer('height')->nullable();
            $table->jsonb('row')->nullable();
            $table->jsonb('proof')->default('[]');
            $table->date('until');
            $table->unique(['bag_id', 'payload']);
            $table->index(['site_id', 'path']);
        });
        Schema::drop('resting_files');
        Schema::create('resting_files', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->text('path');
            $table->char('sha256', 64);
            $table->bigInteger('size');
            $table->jsonb('file');
            // The path of the original, for it and for what was derived from it.
            $table->text('item');
            $table->text('title')->default('');
            $table->string('mime', 60)->default('');
            $table->integer('width')->nullable();
            $table->integer('height')->nullable();
            // The row of the site's own list of media, column for column, with the original; null where it has none.
            $table->jsonb('row')->nullable();
            // What spoke for and against it, and what named it, when it was laid to rest.
            $table->jsonb('proof')->default('[]');
            $table->date('until');
            $table->timestampTz('rested_at');
            $table->timestampTz('called_at')->nullable();
            $table->text('called_by')->nullable();
            $table->unique(['site_id', 'path', 'sha256']);
            $table->index(['site_id', 'until']);
            $table->index(['site_id', 'item']);
        });
        DB::statement(
            'create index resting_files_called on resting_files (site_id, called_at) where called_at is not null',
        );
    }
};
