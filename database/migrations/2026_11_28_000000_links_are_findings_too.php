<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * A link follows an address as a picture does, so both share the table of addresses, and what is wrong with either is
 * asked for in one place: the view of findings. The next reading fills what this leaves empty.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('addresses', function (Blueprint $table): void {
            // Whether visitors are led to it, rather than shown it.
            $table->boolean('leads')->default(false);
            $table->bigInteger('page_id')->nullable();
            $table->index('page_id');
        });
        DB::table('links')->delete();
        DB::statement('drop index links_page_id_index');
        foreach (['links', 'staged_links'] as $name) {
            Schema::table($name, function (Blueprint $table) use ($name): void {
                $table->dropColumn($name === 'links' ? ['path', 'query', 'page_id'] : ['path', 'query']);
            });
        }
        Schema::table('links', function (Blueprint $table): void {
            $table->bigInteger('address_id');
            $table->string('outcome', 24)->nullable();
            $table->index('address_id');
            $table->index(['site_id', 'outcome']);
        });
        Schema::table('staged_links', function (Blueprint $table): void {
            $table->text('url');
            $table->char('url_hash', 32);
        });
        // Which findings there were, so that one that comes back says so.
        Schema::create('finding_history', function (Blueprint $table): void {
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->string('cause', 24);
            // Of variable length, as md5() gives it: an index of blank-padded ones would not be used.
            $table->string('asked_hash', 32);
            $table->timestampTz('gone_at')->nullable();
            $table->timestampTz('back_at')->nullable();
            $table->unique(['site_id', 'cause', 'asked_hash']);
        });
        // Where pages were: a link to such an address is known to be dead, and often where it should lead instead.
        Schema::create('former_pages', function (Blueprint $table): void {
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->text('address');
            $table->string('kind', 40);
            $table->text('key');
            $table->timestampTz('left_at');
        });
        DB::statement('create unique index former_pages_of on former_pages (site_id, md5(address), kind, md5(key))');
        DB::statement(
            "create index records_words on records using gin (to_tsvector('simple', regexp_replace(address, "
                ."'[^[:alnum:]]+', ' ', 'g'))) where is_page",
        );
        Schema::table('redirects', function (Blueprint $table): void {
            // Where it leads on this site, so that chains can be followed; null where it leads elsewhere.
            $table->text('to_path')->nullable();
            // Whether it lies in the site's own table.
            $table->boolean('in_table')->default(false);
            // Whether links were not looked at since it came.
            $table->boolean('is_new')->default(true);
            $table->string('verdict', 12)->nullable();
            $table->text('words')->nullable();
            $table->timestampTz('checked_at')->nullable();
        });
        Schema::table('sites', function (Blueprint $table): void {
            // How politely the public site is asked: questions at a time, and milliseconds before each.
            $table->smallInteger('at_once')->default(4);
            $table->integer('pause')->default(0);
            // Other hosts: what was decided about each, and whether it may be asked.
            $table->jsonb('hosts')->default('{}');
            // What surveys showed, counted when one ended.
            $table->jsonb('surveyed')->nullable();
        });
        // What the public site and the hosts that it names answered, each address once.
        Schema::create('surveys', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->string('state', 12);
            $table->string('stage', 12);
            $table->bigInteger('after_id')->default(0);
            $table->jsonb('totals')->default('{}');
            // Only these pages; null for all.
            $table->jsonb('pages')->nullable();
            $table->boolean('deep')->default(false);
            $table->boolean('stop_asked')->default(false);
            $table->text('problem')->nullable();
            $table->foreignId('started_by')->nullable()->constrained('users')->nullOnDelete();
            $table->foreignId('change_id')->nullable()->constrained('changes')->nullOnDelete();
            $table->timestampTz('started_at');
            $table->timestampTz('worked_at');
            $table->timestampTz('finished_at')->nullable();
            $table->index(['site_id', 'id']);
        });
        DB::statement(
            "create unique index surveys_one_at_a_time on surveys (site_id) where state in ('waiting', 'running')",
        );
        Schema::create('visits', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->char('url_hash', 32);
            $table->text('url');
            $table->string('kind', 8);
            // How the map knows it: below the root, without a slash at either end; null on other hosts.
            $table->text('asked')->nullable();
            $table->text('host');
            $table->smallInteger('status')->nullable();
            $table->text('problem')->nullable();
            $table->text('leads_to')->nullable();
            $table->string('type', 120)->nullable();
            $table->bigInteger('weight')->nullable();
            $table->integer('ms')->nullable();
            $table->char('fingerprint', 64)->nullable();
            // The bytes as they were when they were first seen, or accepted, where they are others now.
            $table->char('known_as', 64)->nullable();
            $table->jsonb('headers')->default('{}');
            $table->bigInteger('survey_id')->nullable();
            $table->timestampTz('asked_at')->nullable();
            $table->unique(['site_id', 'url_hash']);
            $table->index(['site_id', 'asked']);
            $table->index(['site_id', 'kind', 'id']);
            $table->index(['site_id', 'host']);
        });
        // Which page shows what, by the map and in truth.
        Schema::create('sightings', function (Blueprint $table): void {
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->foreignId('record_id')->constrained('records')->cascadeOnDelete();
            $table->char('url_hash', 32);
            $table->text('url');
            $table->text('path')->nullable();
            $table->string('role', 60)->default('');
            $table->boolean('seen');
            $table->boolean('mapped');
            // When the page was made: a cache may give out one of before.
            $table->timestampTz('made_at')->useCurrent();
            $table->unique(['record_id', 'url_hash']);
            $table->index(['site_id', 'url_hash']);
        });
        DB::statement('create index sightings_apart on sightings (site_id, seen, path) where seen <> mapped');
        Schema::create('staged_redirects', function (Blueprint $table): void {
            $table->foreignId('reading_id')->constrained()->cascadeOnDelete();
            $table->text('from_path');
            $table->text('to_address');
            $table->text('to_path')->nullable();
            $table->smallInteger('status');
            $table->index('reading_id');
        });
        DB::statement(
            <<<'SQL'
            create view findings as
            select m.id, false as leads, m.site_id, m.record_id, m.field, m.start, m.length, m.value, m.line,
                m.outcome, coalesce(a.asked, m.value) as asked, a.path, a.candidates, a.url,
                coalesce(m.media_item_id, a.media_item_id) as item, m.names = 'address' as by_address,
                coalesce(a.sure, false) as sure, m.address_id
            from media_references m left join addresses a on a.id = m.address_id
            union all
            select l.id, true, l.site_id, l.record_id, l.field, l.start, l.length, l.value, l.line,
                l.outcome, a.asked, a.path, a.candidates, a.url,
                cast(null as bigint), true, a.sure, l.address_id
            from links l join addresses a on a.id = l.address_id
            SQL
            ,
        );
    }
};
