<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * Who carries whom, whichever of the two says so; and further addresses that lead to a page.
 */
return new class extends Migration
{
    public function up(): void
    {
        DB::statement(
            <<<'SQL'
            create view carrying as
                select site_id, record_id as carrier_id, target_record_id as carried_id, role, field, start
                from media_references where names = 'record' and target_record_id is not null
                union all
                select site_id, target_record_id, record_id, role, field, start
                from media_references where names = 'owner' and target_record_id is not null
            SQL
            ,
        );
        // The graph of carriers is made of few rows among very many.
        DB::statement(
            "create index media_references_ties on media_references (site_id) where names in ('record', 'owner')",
        );
        Schema::create('further_addresses', function (Blueprint $table): void {
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->foreignId('record_id')->constrained('records')->cascadeOnDelete();
            $table->text('address');
            $table->index('record_id');
        });
        DB::statement("create index further_addresses_asked on further_addresses (site_id, rtrim(address, '/'))");
        Schema::table('staged_records', function (Blueprint $table): void {
            $table->jsonb('also')->nullable();
        });
        // What is wrong with a log is said while it is read; nothing was ever kept here.
        Schema::table('log_files', function (Blueprint $table): void {
            $table->dropColumn('problem');
        });
    }
};
