<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

return new class extends Migration
{
    /** As files keep them beside their paths (Resolver::fold()), so that both are matched by one rule. */
    private const FOLD = 'lower(normalize(path, NFC))';

    private const STEM = "regexp_replace(regexp_replace(lower(normalize(path, NFC)), '^.*/', ''), '\\.[^.]*$', '')";

    public function up(): void
    {
        DB::statement('alter table resting_files drop column name_stem');
        DB::statement(
            'alter table resting_files add column fold text generated always as ('.self::FOLD.') stored, '
                .'add column name_fold text generated always as (regexp_replace('.self::FOLD.", '^.*/', '')) stored, "
                .'add column name_stem text generated always as (coalesce(nullif('.self::STEM.", ''), "
                .'regexp_replace('.self::FOLD.", '^.*/', ''))) stored",
        );
        DB::statement('create index resting_files_name_stem on resting_files (site_id, name_stem)');
        // Which file at rest a mention names, by the rule of mentioned(): that of its folder where one lies there, of
        // its ending where one has it, else each that is called so; files that are there count beside those at rest.
        DB::statement(
            <<<'SQL'
            create function mentioned_at_rest(site bigint)
            returns table (mention_id bigint, resting_id bigint) language sql stable as $$
            with named as (
                select m.id, m.stem, m.ending, '/' || m.folder || m.stem as said, m.folder <> '' as has_folder
                from mentions m where m.site_id = site and m.item is null and not denied(m)
                and m.stem in (select r.name_stem from resting_files r where r.site_id = site)
            ), held as (
                select r.id as resting_id, r.name_stem, r.name_fold, r.fold from resting_files r where r.site_id = site
                union all
                select null, f.name_stem, f.name_fold, f.fold from files f where f.site_id = site
                    and f.name_stem in (select stem from named)
            ), likely as (
                select n.id, h.resting_id,
                    n.ending <> '' and h.name_fold = n.stem || '.' || n.ending as of_ending,
                    n.has_folder and (right(p.path, length(n.said)) = n.said or right(n.said, length(p.path)) = p.path)
                        as of_folder
                from named n join held h on h.name_stem = n.stem
                cross join lateral (select '/' || regexp_replace(h.fold, '\.[^./]*$', '') as path) p
            ), ranked as (
                select l.*, bool_or(of_folder) over (partition by id) as any_folder,
                    bool_or(of_ending) over (partition by id, of_folder) as any_ending
                from likely l
            )
            select r.id, r.resting_id from ranked r where r.resting_id is not null
                and (r.of_folder or not r.any_folder) and (r.of_ending or not r.any_ending)
            $$
            SQL
            ,
        );
    }

    public function down(): void
    {
        DB::statement('drop function mentioned_at_rest(bigint)');
        DB::statement('alter table resting_files drop column fold, drop column name_fold, drop column name_stem');
        DB::statement(
            'alter table resting_files add column name_stem text generated always as '
                ."(regexp_replace(lower(regexp_replace(path, '^.*/', '')), '\\.[^.]*$', '')) stored",
        );
    }
};
