<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Whether an access log is the site's own: lines of its hosts, and requests for files that are there. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('log_files', function (Blueprint $table): void {
            $table->bigInteger('own')->default(0);
            $table->bigInteger('found')->default(0);
            // Other hosts that it speaks of, with how many lines each has.
            $table->jsonb('hosts')->default('{}');
            // A maintainer said that it is the site's own, though it does not look so.
            $table->boolean('accepted')->default(false);
        });
        // What was read before was not asked whose it is; it counts as it did.
        DB::table('log_files')->update(['own' => DB::raw('lines'), 'found' => DB::raw('lines'), 'accepted' => true]);
    }
};
