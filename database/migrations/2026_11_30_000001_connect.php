<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** A site that was just connected is only read, until its owner switches writing on; its maps of before are kept. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('sites', function (Blueprint $table): void {
            $table->boolean('writes')->default(true);
            // At which minute of the night it is read and surveyed, and on which day that was done last.
            $table->char('nightly', 5)->nullable();
            $table->date('nightly_read_on')->nullable();
            $table->date('nightly_surveyed_on')->nullable();
        });
        Schema::create('drafts', function (Blueprint $table): void {
            $table->id();
            $table->text('said');
            $table->string('state', 12)->default('new');
            $table->text('problem')->nullable();
            $table->text('field_map')->nullable();
            $table->jsonb('proposal')->nullable();
            $table->jsonb('answers')->default('{}');
            $table->foreignId('made_by')->nullable()->constrained('users')->nullOnDelete();
            $table->timestampsTz();
        });
        Schema::create('field_maps', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->text('yaml');
            $table->string('reason', 200)->default('');
            $table->foreignId('made_by')->nullable()->constrained('users')->nullOnDelete();
            $table->timestampTz('made_at');
            $table->index(['site_id', 'id']);
        });
    }
};
