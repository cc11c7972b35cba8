<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** The net under the readers: what names a file in a way that is not read, and what nobody looked into. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::dropIfExists('code_mentions');
        Schema::dropIfExists('staged_mentions');
        $mention = static function (Blueprint $table): void {
            // Where it stands: content (a field of a record), code, a table or a file beside the field map.
            $table->string('source', 8);
            // For code and what lies beside: `table.column` or the path of a file; and the key of the row.
            $table->text('place')->default('');
            $table->text('at')->default('');
            $table->text('field')->default('');
            $table->bigInteger('start');
            $table->integer('length');
            $table->integer('line')->nullable();
            $table->text('folder')->default('');
            $table->text('stem')->default('');
            $table->text('ending')->default('');
            $table->text('item')->nullable();
            $table->string('strength', 5);
        };
        Schema::create('mentions', function (Blueprint $table) use ($mention): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->foreignId('record_id')->nullable()->constrained('records')->cascadeOnDelete();
            $mention($table);
            $table->index(['site_id', 'stem']);
            $table->index(['site_id', 'source']);
            $table->index('record_id');
        });
        Schema::create('staged_mentions', function (Blueprint $table) use ($mention): void {
            $table->foreignId('reading_id')->constrained()->cascadeOnDelete();
            $table->bigInteger('chunk_id')->nullable();
            $table->string('kind', 40)->nullable();
            $table->text('key')->nullable();
            $mention($table);
            $table->index('reading_id');
            $table->index('chunk_id');
        });
        // Names of files that are words which the site's texts have anyway.
        Schema::create('name_words', function (Blueprint $table): void {
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->text('stem');
            $table->unique(['site_id', 'stem']);
        });
        // Files that the site's own code consists of.
        Schema::create('code_files', function (Blueprint $table): void {
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->text('path');
            $table->unique(['site_id', 'path']);
        });
        DB::statement(
            "alter table files add column name_stem text generated always as (
                coalesce(nullif(regexp_replace(name_fold, '\\.[^.]*$', ''), ''), name_fold)) stored,
             add column netted boolean not null default false",
        );
        DB::statement('create index files_name_stem on files (site_id, name_stem)');
        DB::statement(
            'alter table resting_files add column name_stem text generated always as '
                ."(regexp_replace(lower(regexp_replace(path, '^.*/', '')), '\\.[^.]*$', '')) stored",
        );
        Schema::table('media_items', function (Blueprint $table): void {
            // Places that name it in a way that is not read.
            $table->integer('mentions')->default(0);
        });
        Schema::table('reading_chunks', function (Blueprint $table): void {
            // What was looked into beside the map, and what was not, with the reason.
            $table->jsonb('beside')->nullable();
        });
        Schema::table('sites', function (Blueprint $table): void {
            $table->jsonb('beside')->nullable();
        });
        // Sites are read anew once, so that the net has seen each text; until then nothing is safe.
        DB::table('sites')->update(['read_with' => null]);
        foreach (['media_items', 'files'] as $table) {
            DB::table($table)->where('verdict', 'safe')->update(['verdict' => 'ask', 'verdict_by' => 'mentions']);
        }
        $this->function();
    }

    /**
     * Which file a mention names: that of its folder where one lies there, of its ending where one has it, else each
     * that is called so. Of some items, only mentions of their names are looked at.
     */
    private function function(): void
    {
        DB::statement(
            <<<'SQL'
            create function mentioned(site bigint, items bigint[])
            returns table (mention_id bigint, file_id bigint, media_item_id bigint) language sql stable as $$
            with named as (
                select m.id, m.stem, m.ending, '/' || m.folder || m.stem as said, m.folder <> '' as has_folder
                from mentions m where m.site_id = site and m.item is null and (items is null or m.stem in (
                    select f.name_stem from files f where f.site_id = site and f.media_item_id = any(items)))
            ), likely as (
                select n.id, f.id as file_id, f.media_item_id,
                    n.ending <> '' and f.name_fold = n.stem || '.' || n.ending as of_ending,
                    n.has_folder and (right(p.path, length(n.said)) = n.said or right(n.said, length(p.path)) = p.path)
                        as of_folder
                from named n join files f on f.site_id = site and f.name_stem = n.stem
                cross join lateral (select '/' || regexp_replace(f.fold, '\.[^./]*$', '') as path) p
            ), ranked as (
                select l.*, bool_or(of_folder) over (partition by id) as any_folder,
                    bool_or(of_ending) over (partition by id, of_folder) as any_ending
                from likely l
            )
            select r.id, r.file_id, r.media_item_id from ranked r
            where (r.of_folder or not r.any_folder) and (r.of_ending or not r.any_ending)
            union all
            select m.id, f.id, i.id
            from mentions m join media_items i on i.site_id = site and i.source_id = m.item
            left join files f on f.media_item_id = i.id and f.is_original
            where m.site_id = site and m.item is not null and (items is null or i.id = any(items))
            $$
            SQL
            ,
        );
    }
};
