<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** What came of comparing pictures that may be the same at a resolution at which letters live. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('comparisons', function (Blueprint $table): void {
            // The whole, and what may be the same or a part of it.
            $table->char('one', 64);
            $table->char('other', 64);
            // Which part, of those that are cut out often; null for the whole.
            $table->smallInteger('part')->nullable();
            // same, marked, part, apart, or none where they cannot be compared; null until somebody looked.
            $table->string('says', 8)->nullable();
            $table->primary(['one', 'other']);
            $table->index('other');
        });
        DB::statement('create index comparisons_open on comparisons (one) where says is null');
        // What was called the same from afar is looked at again.
        DB::table('alike')->whereIn('how', ['picture', 'part'])->update(['how' => 'alike']);
    }
};
