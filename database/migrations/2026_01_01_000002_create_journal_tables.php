<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/**
 * Plans and the journal: what was proposed, what was done, and all that undo needs. Never made again; never dropped.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('plans', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->string('kind', 20);
            $table->string('state', 12)->default('open');
            $table->text('title');
            $table->jsonb('request');
            $table->jsonb('summary')->default('{}');
            $table->foreignId('made_by')->nullable()->constrained('users')->nullOnDelete();
            $table->timestamps();
        });
        Schema::create('plan_writes', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('plan_id')->constrained()->cascadeOnDelete();
            $table->integer('position');
            // record: fields of one record; file: bytes at a path; media-row: a new row in the source
            $table->string('target', 12);
            $table->string('record_kind', 40)->nullable();
            $table->text('record_key')->nullable();
            $table->text('title');
            $table->string('before_hash', 64)->nullable();
            $table->string('after_hash', 64)->nullable();
            $table->jsonb('detail');
            $table->text('problem')->nullable();
            $table->index(['plan_id', 'position']);
        });
        Schema::create('changes', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->foreignId('plan_id')->nullable()->constrained()->nullOnDelete();
            $table->string('state', 16);
            $table->text('title');
            $table->text('reason')->default('');
            $table->jsonb('summary')->default('{}');
            $table->jsonb('verification')->nullable();
            $table->foreignId('applied_by')->nullable()->constrained('users')->nullOnDelete();
            $table->foreignId('undone_by')->nullable()->constrained('users')->nullOnDelete();
            $table->timestampTz('applied_at')->nullable();
            $table->timestampTz('undone_at')->nullable();
            $table->timestamps();
            $table->index(['site_id', 'id']);
        });
        Schema::create('change_writes', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('change_id')->constrained()->cascadeOnDelete();
            $table->integer('position');
            $table->string('target', 12);
            $table->string('record_kind', 40)->nullable();
            $table->text('record_key')->nullable();
            $table->text('title');
            $table->string('before_hash', 64)->nullable();
            $table->string('after_hash', 64)->nullable();
            $table->jsonb('detail');
            $table->string('state', 12)->default('pending');
            $table->text('message')->nullable();
            $table->index(['change_id', 'position']);
        });
    }
};
