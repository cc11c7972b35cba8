<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What lives says so now and then: workers by machine and process, the schedule, the last backup.
        Schema::create('beats', function (Blueprint $table): void {
            $table->string('name', 120)->primary();
            $table->text('doing')->nullable();
            $table->timestampTz('since')->nullable();
            $table->timestampTz('beat_at');
        });
        // Free bytes of each place, once an hour, from which it is told how many days are left.
        Schema::create('space', function (Blueprint $table): void {
            $table->string('place', 20);
            $table->timestampTz('at');
            $table->bigInteger('free');
            $table->primary(['place', 'at']);
        });
    }

    public function down(): void
    {
        DB::statement('drop table beats, space');
    }
};
