<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** What tells where a file went that an address still asks for, and other names of a site. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('sites', function (Blueprint $table): void {
            $table->jsonb('aliases')->default('[]');
        });
        // A file that goes leaves its fingerprint, so that it is known again under another name.
        Schema::create('former_files', function (Blueprint $table): void {
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->text('path');
            $table->char('sha256', 64);
            $table->timestampTz('gone_at');
            $table->primary(['site_id', 'path']);
        });
        Schema::table('files', function (Blueprint $table): void {
            $table->index(['site_id', 'sha256']);
        });
        // Paths that differ in nothing but their extension.
        DB::statement("create index files_stem on files (site_id, regexp_replace(fold, '\\.[^./]*$', ''))");
    }
};
