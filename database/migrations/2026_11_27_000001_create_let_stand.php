<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** What was decided about findings outlives every reading. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('let_stand', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->string('cause', 30);
            $table->text('asked');
            $table->text('reason');
            $table->foreignId('decided_by')->nullable()->constrained('users')->nullOnDelete();
            $table->timestampsTz();
        });
        // An address may be longer than an index takes.
        DB::statement('create unique index let_stand_of on let_stand (site_id, cause, md5(asked))');
    }
};
