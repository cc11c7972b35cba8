<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** What only somebody who knows the site can tell of places that the field map leaves out. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('place_questions', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            // Whether its numbers are keys of media; or whether a list of nearly all items says that they are used.
            $table->string('kind', 4);
            $table->string('source', 8);
            $table->text('place');
            // So many of its values, or of all items, it names.
            $table->integer('names');
            $table->integer('of');
            // The reading that met it last.
            $table->bigInteger('reading_id');
            // Whether what it names counts as named; null until somebody says so.
            $table->boolean('answer')->nullable();
            $table->timestamp('answered_at')->nullable();
            $table->unique(['site_id', 'kind', 'source', 'place']);
        });
        DB::statement(
            <<<'SQL'
            create function denied(m mentions) returns boolean language sql stable as $$
                select exists (select 1 from place_questions q where q.site_id = m.site_id and q.source = m.source
                    and q.place = m.place and not q.answer and (q.kind = 'keys') = (m.strength = 'key'))
            $$
            SQL
            ,
        );
        DB::statement(
            <<<'SQL'
            create or replace function mentioned(site bigint, items bigint[])
            returns table (mention_id bigint, file_id bigint, media_item_id bigint) language sql stable as $$
            with named as (
                select m.id, m.stem, m.ending, '/' || m.folder || m.stem as said, m.folder <> '' as has_folder
                from mentions m where m.site_id = site and m.item is null and not denied(m)
                and (items is null or m.stem in (
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
            where m.site_id = site and m.item is not null and not denied(m) and (items is null or i.id = any(items))
            $$
            SQL
            ,
        );
        // Numbers in columns were not looked at: sites are read anew once, and until then nothing is safe.
        DB::table('sites')->update(['read_with' => null]);
        foreach (['media_items', 'files'] as $table) {
            DB::table($table)->where('verdict', 'safe')->update(['verdict' => 'ask', 'verdict_by' => 'mentions']);
        }
    }
};
