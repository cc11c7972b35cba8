<?php

declare(strict_types=1);

namespace App\Retire;

use App\Models\Site;
use Illuminate\Support\Facades\DB;

/**
 * Watches over files at rest: what names one, shows one or asks for one calls it back. A called file stays called until
 * it is restored or somebody says that it may rest on, and never goes to the archive meanwhile.
 */
final readonly class Watch
{
    public function __construct(private Site $site)
    {
    }

    /** After a reading: records that visitors meet now, or will, and that name a file at rest. */
    public function ofContent(): void
    {
        if (! $this->rests()) {
            return;
        }
        DB::update(
            <<<'SQL'
            update resting_files f set called_at = now(),
                called_by = 'The ' || c.kind || ' “' || c.title || '” names it.'
            from (
                select distinct on (f.id) f.id, r.kind, r.title from resting_files f
                join addresses a on a.site_id = f.site_id and a.asked = f.path
                join media_references m on m.address_id = a.id join records r on r.id = m.record_id
                where f.site_id = :site and f.called_at is null and r.state < 2 order by f.id, r.state, r.title
            ) as c where c.id = f.id
            SQL
            ,
            ['site' => $this->site->id],
        );
        DB::update(
            <<<'SQL'
            update resting_files f set called_at = now(),
                called_by = 'The ' || c.kind || ' “' || c.title || '” names it by its number.'
            from (
                select distinct on (f.id) f.id, r.kind, r.title from resting_files f
                join media_references m on m.site_id = f.site_id and m.names = 'media-item' and m.value = f."row"->>'id'
                join records r on r.id = m.record_id
                where f.site_id = :site and f.called_at is null and f."row" is not null and m.media_item_id is null
                    and r.state < 2 order by f.id, r.state, r.title
            ) as c where c.id = f.id
            SQL
            ,
            ['site' => $this->site->id],
        );
        // By the same rule of names as the proof sheets, since what names a file there calls it back here.
        DB::update(
            <<<'SQL'
            update resting_files f set called_at = now(), called_by = case
                when c.at is not null then 'The site’s own code names it: ' || c.at || '.'
                else 'The ' || c.kind || ' “' || c.title || '” names it in its words.' end
            from (
                select n.resting_id as id, min(m.place || ':' || coalesce(m.line, 1)) filter (where m.source = 'code')
                    as at, min(r.kind) as kind, min(r.title) as title
                from mentioned_at_rest(:of) n join mentions m on m.id = n.mention_id
                left join records r on r.id = m.record_id
                where m.strength in ('path', 'name') and (m.source = 'code' or r.state < 2) group by 1
            ) as c where c.id = f.id and f.site_id = :site and f.called_at is null
            SQL
            ,
            ['site' => $this->site->id, 'of' => $this->site->id],
        );
    }

    /** After a survey: pages that show a file at rest, whatever the map knows of it. */
    public function ofSurvey(): void
    {
        if (! $this->rests()) {
            return;
        }
        DB::update(
            <<<'SQL'
            update resting_files f set called_at = now(), called_by = 'The page “' || c.title || '” shows it.'
            from (
                select distinct on (f.id) f.id, r.title from resting_files f
                join sightings s on s.site_id = f.site_id and s.path = f.path and s.seen
                    and s.made_at > f.rested_at
                join records r on r.id = s.record_id
                where f.site_id = :site and f.called_at is null order by f.id, r.title
            ) as c where c.id = f.id
            SQL
            ,
            ['site' => $this->site->id],
        );
    }

    /** After an access log: people who asked for a file while it rested. */
    public function ofLogs(): void
    {
        if (! $this->rests()) {
            return;
        }
        DB::update(
            <<<'SQL'
            update resting_files f set called_at = now(), called_by = 'Somebody asked for it on '
                || to_char(a.last_person_at at time zone 'UTC', 'YYYY-MM-DD')
                || coalesce(', sent by ' || (select min(k) from jsonb_object_keys(a.pages) as k), '') || '.'
            from asked_for a
            where f.site_id = :site and a.site_id = f.site_id and md5(a.path) = md5(f.path) and a.path = f.path
                and f.called_at is null and a.last_person_at > f.rested_at
            SQL
            ,
            ['site' => $this->site->id],
        );
    }

    private function rests(): bool
    {
        return DB::table('resting_files')->where('site_id', $this->site->id)->whereNull('called_at')->exists();
    }
}
