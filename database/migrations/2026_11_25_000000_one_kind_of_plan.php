<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * Plans of any kind, made of steps; a change carries the steps of its plan out and notes their states on them.
 * The journal of before had another shape and could hold swaps only.
 */
return new class extends Migration
{
    public function up(): void
    {
        foreach (['change_writes', 'changes', 'plan_writes', 'plans'] as $table) {
            Schema::dropIfExists($table);
        }
        Schema::create('plans', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->string('kind', 40);
            $table->string('state', 12);
            $table->text('title')->default('');
            $table->text('sentence')->default('');
            $table->jsonb('request');
            // What the plan says of itself: notes, pictures, bench, expectation.
            $table->jsonb('outline')->default('{}');
            // How many steps of each state, how many pages are reached.
            $table->jsonb('counts')->default('{}');
            $table->jsonb('pages')->default('[]');
            $table->integer('made')->default(0);
            $table->integer('expected')->default(0);
            $table->text('problem')->nullable();
            $table->foreignId('made_by')->nullable()->constrained('users')->nullOnDelete();
            $table->timestampsTz();
            $table->index(['site_id', 'id']);
        });
        DB::statement("create index plans_being_made on plans (id) where state = 'making'");
        Schema::create('plan_steps', function (Blueprint $table): void {
            $table->foreignId('plan_id')->constrained()->cascadeOnDelete();
            $table->integer('position');
            $table->string('kind', 16);
            $table->text('title');
            $table->string('record_kind', 40)->nullable();
            $table->text('record_key')->nullable();
            $table->text('path')->nullable();
            $table->jsonb('detail');
            $table->string('state', 12);
            $table->text('message')->nullable();
            $table->primary(['plan_id', 'position']);
        });
        // Those that a person looks for among thousands. A step whose state is noted stays in its place on the page,
        // and no index moves.
        DB::statement(
            "create index plan_steps_left on plan_steps (plan_id, position) where state in ('left-out', "
                ."'refused', 'kept')",
        );
        DB::statement('alter table plan_steps set (fillfactor = 60)');
        Schema::create('changes', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            // No plan that was applied can go while its change is there.
            $table->foreignId('plan_id')->unique()->constrained();
            $table->string('kind', 40);
            $table->string('state', 20);
            $table->text('title');
            $table->text('sentence')->default('');
            $table->text('reason')->default('');
            $table->jsonb('expectation')->default('{}');
            $table->jsonb('counts')->default('{}');
            $table->jsonb('verification')->nullable();
            $table->boolean('stop_asked')->default(false);
            // Whether the index was read again and the pages were looked at since the last step.
            $table->boolean('followed_up')->default(false);
            $table->foreignId('applied_by')->nullable()->constrained('users')->nullOnDelete();
            $table->foreignId('undone_by')->nullable()->constrained('users')->nullOnDelete();
            $table->timestampTz('applied_at')->nullable();
            $table->timestampTz('undone_at')->nullable();
            $table->timestampsTz();
            $table->index(['site_id', 'id']);
        });
        DB::statement('create index changes_not_followed_up on changes (id) where not followed_up');

        // Where redirects and resting files are kept until a web server or an archive takes them.
        Schema::create('redirects', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->text('from_path');
            $table->text('to_address');
            $table->smallInteger('status');
            $table->timestampTz('made_at')->useCurrent();
            $table->unique(['site_id', 'from_path']);
        });
        Schema::create('resting_files', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->text('path');
            $table->jsonb('file');
            $table->date('until');
            $table->timestampTz('rested_at')->useCurrent();
            $table->unique(['site_id', 'path']);
        });

        // A finding stands on its reference, whatever that names.
        Schema::table('media_references', function (Blueprint $table): void {
            $table->string('outcome', 24)->nullable();
            $table->index(['site_id', 'outcome']);
        });
        Schema::table('sites', function (Blueprint $table): void {
            // What the index was made with (field map, addresses); another one makes the next reading read everything
            // anew.
            $table->char('read_with', 32)->nullable();
            // Whether verification may ask the site's own public address where no table says how to reach it.
            $table->boolean('ask_public')->default(false);
        });
        Schema::table('readings', function (Blueprint $table): void {
            $table->boolean('prepared')->default(false);
            $table->boolean('anew')->default(false);
            $table->jsonb('unread')->default('[]');
            // A person said that the files which are not there are really gone.
            $table->boolean('accept_loss')->default(false);
        });
        Schema::table('reading_chunks', function (Blueprint $table): void {
            $table->boolean('begun')->default(false);
        });
        foreach (['staged_records', 'staged_references'] as $name) {
            Schema::table($name, function (Blueprint $table): void {
                $table->index('chunk_id');
            });
        }
        foreach (['staged_files', 'staged_media'] as $name) {
            Schema::table($name, function (Blueprint $table): void {
                $table->index(['reading_id', 'path']);
            });
        }
        Schema::table('staged_records', function (Blueprint $table): void {
            $table->index(['reading_id', 'kind', 'key']);
        });
    }
};
