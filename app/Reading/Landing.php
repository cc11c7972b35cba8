<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\Reading;
use App\Retire\Proofs;
use App\Retire\Watch;
use App\Sites\OpenSite;
use App\Support\BulkRows;
use App\Usage\Findings;
use App\Usage\UsageIndex;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Addresses\Outcome;
use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\Resolver;
use Ylema\Plan\Finding;
use Ylema\Repair\Cures;

/**
 * Brings a finished reading from the staging tables into the index, in one transaction: whoever looks
 * sees the site as it was read before, or as it is read now, never a mixture.
 */
final readonly class Landing
{
    private const STAGED = [
        'staged_records',
        'staged_references',
        'staged_links',
        'staged_files',
        'staged_media',
        'staged_redirects',
        'staged_mentions',
    ];

    public function __construct(private OpenSite $site, private Reading $reading)
    {
    }

    /** @param  bool  $whole whether the reading saw everything, so that what it did not see is gone */
    public function land(bool $whole): void
    {
        $touched = [];
        DB::transaction(function () use ($whole, &$touched): void {
            foreach (self::STAGED as $table) {
                DB::statement("analyze $table");
            }
            DB::statement('create temporary table moved_files (path text primary key) on commit drop');
            $filesMoved = $this->files($whole);
            $mediaMoved = $this->media($whole);
            if ($filesMoved || $mediaMoved || $this->reading->anew) {
                $this->assignFiles();
            }
            DB::statement('create temporary table moved_pages (id bigint primary key) on commit drop');
            DB::statement(
                'create temporary table gone_uses (id bigint primary key, kind text, title text, key text, field text, '
                    .'address text) on commit drop',
            );
            $this->records($whole);
            $this->addresses();
            $this->resolve($filesMoved || $mediaMoved);
            if ($whole) {
                $this->redirects();
            }
            $named = (new MentionLanding($this->site->id, $this->reading))->land($whole);
            (new LinkLanding($this->site, $this->reading))->resolve($whole);
            $this->connect();
            $stand = (new UsageIndex($this->site->id))->rebuild();
            $this->leftBehind();
            $touched = $whole ? [] : [...$stand, ...$named, ...$this->touched()];
            $this->clear();
        });
        // What is known of the site as a whole is not known of a site that was never read as one.
        if (! $whole) {
            (new Proofs($this->site->id))->settle(array_values(array_unique($touched)));
        }
        (new Watch($this->reading->site))->ofContent();
        // Statistics decide whether the next questions take milliseconds or minutes.
        foreach (['records', 'media_references', 'links', 'addresses', 'files', 'media_items', 'mentions'] as $table) {
            DB::statement("analyze $table");
        }
    }

    public function clear(): void
    {
        foreach (self::STAGED as $table) {
            DB::table($table)->where('reading_id', $this->reading->id)->delete();
        }
    }

    /** @return bool whether any file came, went or changed; which they were stands in moved_files then */
    private function files(bool $whole): bool
    {
        $bind = ['reading' => $this->reading->id, 'site' => $this->site->id];
        if ($whole) {
            DB::insert(
                <<<'SQL'
                insert into former_files (site_id, path, sha256, gone_at)
                select f.site_id, f.path, f.sha256, now() from files f
                where f.site_id = :site and not exists (select 1 from staged_files s where s.reading_id = :reading
                    and s.path = f.path)
                on conflict (site_id, path) do update set sha256 = excluded.sha256, gone_at = excluded.gone_at
                SQL
                ,
                $bind,
            );
            DB::insert(
                <<<'SQL'
                with gone as (delete from files f where f.site_id = :site and not exists (select 1 from staged_files s
                    where s.reading_id = :reading and s.path = f.path) returning f.path)
                insert into moved_files select path from gone on conflict do nothing
                SQL
                ,
                $bind,
            );
        }
        // Paths that a partial reading asked for and did not find.
        DB::insert(
            <<<'SQL'
            with gone as (delete from files f using staged_files s where f.site_id = :site and s.reading_id = :reading
                and s.size < 0 and s.path = f.path returning f.site_id, f.path, f.sha256),
            kept as (
                insert into former_files (site_id, path, sha256, gone_at) select site_id, path, sha256, now() from gone
                on conflict (site_id, path) do update set sha256 = excluded.sha256, gone_at = excluded.gone_at
            )
            insert into moved_files select path from gone on conflict do nothing
            SQL
            ,
            $bind,
        );
        DB::insert(
            <<<'SQL'
            insert into moved_files select s.path from staged_files s left join files f on f.site_id = :site
                and f.path = s.path
            where s.reading_id = :reading and s.sha256 is not null and f.sha256 is distinct from s.sha256
                on conflict do nothing
            SQL
            ,
            $bind,
        );
        DB::insert(
            <<<'SQL'
            insert into files (site_id, path, fold, name_fold, size, modified, sha256, width, height, mime)
            select cast(:site as bigint), path, fold, name_fold, size, modified, sha256, width, height, mime
                from staged_files
            where reading_id = :reading and sha256 is not null
            on conflict (site_id, path) do update set size = excluded.size, modified = excluded.modified,
                sha256 = excluded.sha256,
                width = excluded.width, height = excluded.height, mime = excluded.mime
            SQL
            ,
            $bind,
        );
        DB::delete(
            'delete from former_files g using files f where g.site_id = ? and f.site_id = g.site_id and '
                .'f.path = g.path',
            [$this->site->id],
        );

        return DB::table('moved_files')->exists();
    }

    private function media(bool $whole): bool
    {
        $bind = ['reading' => $this->reading->id, 'site' => $this->site->id];
        $moved = 0;
        if ($whole) {
            self::rememberGone($this->site->id, $this->reading->id);
            $moved += DB::delete(
                <<<'SQL'
                delete from media_items m where m.site_id = :site and m.source_id is not null
                and not exists (select 1 from staged_media s where s.reading_id = :reading and s.path = m.path)
                SQL
                ,
                $bind,
            );
        }
        $moved += DB::affectingStatement(
            <<<'SQL'
            insert into media_items (site_id, path, source_id, hash, title, alt, caption, credit, folder, tags,
                renditions, focus_x, focus_y)
            select distinct on (path) cast(:site as bigint), path, source_id, hash, "row"->>'title', "row"->>'alt',
                "row"->>'caption', "row"->>'credit', "row"->>'folder',
                "row"->'tags', "row"->'renditions', ("row"->>'focusX')::float, ("row"->>'focusY')::float
            from staged_media where reading_id = :reading
            on conflict (site_id, path) do update set source_id = excluded.source_id, hash = excluded.hash,
                title = excluded.title, alt = excluded.alt,
                caption = excluded.caption, credit = excluded.credit, folder = excluded.folder, tags = excluded.tags,
                    renditions = excluded.renditions,
                focus_x = excluded.focus_x, focus_y = excluded.focus_y
            where media_items.hash <> excluded.hash or media_items.source_id is distinct from excluded.source_id
            SQL
            ,
            $bind,
        );

        return $moved > 0;
    }

    /** What items were called whose rows are gone. */
    public static function rememberGone(int $site, int $reading): void
    {
        DB::insert(
            <<<'SQL'
            insert into former_items (site_id, source_id, path, title, gone_at)
            select m.site_id, m.source_id, m.path, m.title, now() from media_items m
            where m.site_id = ? and m.source_id is not null
                and not exists (select 1 from staged_media s where s.reading_id = ? and s.source_id = m.source_id)
            on conflict (site_id, source_id) do update set path = excluded.path, title = excluded.title,
                gone_at = excluded.gone_at
            SQL
            ,
            [$site, $reading],
        );
    }

    /**
     * Says of every file whose it is: named by a media row, listed by one as a rendition, named like a rendition of
     * one, or nobody's, in which case it becomes an item of its own, so that no file can go unseen.
     */
    private function assignFiles(): void
    {
        $site = ['site' => $this->site->id];
        DB::statement(
            'create temporary table owners (file_id bigint primary key, media_item_id bigint, is_original boolean) on '
                .'commit drop',
        );
        DB::insert(
            'insert into owners select f.id, m.id, true from files f join media_items m on m.site_id = f.site_id and '
                .'m.path = f.path where f.site_id = :site and m.source_id is not null',
            $site,
        );
        DB::insert(
            <<<'SQL'
            insert into owners select f.id, min(m.id), false
            from media_items m cross join lateral jsonb_array_elements_text(m.renditions) as r(path)
            join files f on f.site_id = m.site_id and f.path = r.path
            where m.site_id = :site and m.source_id is not null group by f.id on conflict do nothing
            SQL
            ,
            $site,
        );
        (new NamedRenditions($this->site))->assign();
        DB::update(
            'update files f set media_item_id = o.media_item_id, is_original = o.is_original from owners o where '
                .'o.file_id = f.id and (f.media_item_id is distinct from o.media_item_id or f.is_original <> '
                .'o.is_original)',
        );
    }

    private function records(bool $whole): void
    {
        $bind = ['reading' => $this->reading->id, 'site' => $this->site->id];
        $this->formerPages($whole);
        if ($whole) {
            // What they named may be named by nothing any more; that is known once all references are tied.
            DB::insert(
                <<<'SQL'
                insert into gone_uses
                select distinct on (m.media_item_id) m.media_item_id, r.kind, r.title, r.key, m.field,
                    coalesce(r.address, '')
                from records r join media_references m on m.record_id = r.id and m.media_item_id is not null
                where r.site_id = :site and not exists (select 1 from staged_records s where s.reading_id = :reading
                    and s.kind = r.kind and s.key = r.key)
                order by m.media_item_id, r.kind, r.title, m.field
                SQL
                ,
                $bind,
            );
            DB::delete(
                'delete from records r where r.site_id = :site and not exists (select 1 from staged_records s where '
                    .'s.reading_id = :reading and s.kind = r.kind and s.key = r.key)',
                $bind,
            );
        }
        DB::insert(
            <<<'SQL'
            insert into records (site_id, kind, key, title, address, is_page, everywhere, state, hash, content_hash,
                facts, problems)
            select cast(:site as bigint), kind, key, title, address, is_page, everywhere, state, hash, content_hash,
                facts, problems from staged_records where reading_id = :reading and changed
            on conflict (site_id, kind, key) do update set title = excluded.title, address = excluded.address,
                is_page = excluded.is_page, everywhere = excluded.everywhere,
                state = excluded.state, hash = excluded.hash, content_hash = excluded.content_hash,
                    facts = excluded.facts, problems = excluded.problems
            SQL
            ,
            $bind,
        );
        DB::insert(
            <<<'SQL'
            insert into moved_pages select r.id from records r join staged_records s on s.kind = r.kind
                and s.key = r.key
            where r.site_id = :site and s.reading_id = :reading and s.changed and r.is_page on conflict do nothing
            SQL
            ,
            $bind,
        );
        foreach (['media_references', 'links', 'further_addresses'] as $table) {
            DB::delete(
                "delete from $table m using records r, staged_records s where m.record_id = r.id and r.site_id = :site "
                    .'and s.reading_id = :reading and s.changed and s.kind = r.kind and s.key = r.key',
                $bind,
            );
        }
        DB::insert(
            <<<'SQL'
            insert into further_addresses (site_id, record_id, address)
            select r.site_id, r.id, a.address from staged_records s
            join records r on r.site_id = :site and r.kind = s.kind and r.key = s.key
            cross join lateral jsonb_array_elements_text(s.also) as a(address)
            where s.reading_id = :reading and s.changed and s.also is not null
            SQL
            ,
            $bind,
        );
    }

    /** Where pages were that moved or went: links may still lead there. */
    private function formerPages(bool $whole): void
    {
        $gone = $whole
            ? 'or not exists (select 1 from staged_records s where s.reading_id = :reading2 and s.kind = r.kind and '
                .'s.key = r.key)'
            : '';
        DB::insert(
            <<<SQL
            insert into former_pages (site_id, address, kind, key, left_at)
            select r.site_id, trim(both '/' from r.address), r.kind, r.key, now() from records r
            where r.site_id = :site and r.is_page and r.address is not null and r.state = 0 and (exists (
                select 1 from staged_records s where s.reading_id = :reading and s.changed and s.kind = r.kind
                    and s.key = r.key and s.address is distinct from r.address) $gone)
            on conflict do nothing
            SQL
            ,
            [
                'site' => $this->site->id,
                'reading' => $this->reading->id,
                ...$whole ? ['reading2' => $this->reading->id] : [],
            ],
        );
    }

    /** Those of the site's own table, as they are now. */
    private function redirects(): void
    {
        $bind = ['site' => $this->site->id, 'reading' => $this->reading->id];
        DB::delete(
            <<<'SQL'
            delete from redirects d where d.site_id = :site and d.in_table and not exists (
                select 1 from staged_redirects s where s.reading_id = :reading and s.from_path = d.from_path)
            SQL
            ,
            $bind,
        );

        DB::insert(
            <<<'SQL'
            insert into redirects (site_id, from_path, to_address, to_path, status, in_table)
            select distinct on (from_path) cast(:site as bigint), from_path, to_address, to_path, status, true
            from staged_redirects where reading_id = :reading order by from_path
            on conflict (site_id, from_path) do update set to_address = excluded.to_address,
                to_path = excluded.to_path, status = excluded.status, in_table = true, is_new = true,
                verdict = null, words = null
            where (redirects.to_address, redirects.status, redirects.in_table)
                is distinct from (excluded.to_address, excluded.status, true)
            SQL
            ,
            $bind,
        );
    }

    /** @return list<int> items whose proof may say otherwise now: that changed records name, or whose files changed */
    private function touched(): array
    {
        $rows = DB::select(
            <<<'SQL'
            select distinct m.media_item_id as id from staged_records s
            join records r on r.site_id = :site and r.kind = s.kind and r.key = s.key
            join media_references m on m.record_id = r.id and m.media_item_id is not null
            where s.reading_id = :reading
            union select f.media_item_id from moved_files v join files f on f.site_id = :site and f.path = v.path
            where f.media_item_id is not null
            SQL
            ,
            ['site' => $this->site->id, 'reading' => $this->reading->id],
        );

        return array_values(array_map(static fn (stdClass $row): int => (int) $row->id, $rows));
    }

    /** Items that only records named which are gone; one that is named again is left behind no more. */
    private function leftBehind(): void
    {
        DB::delete(
            'delete from left_behind l using media_items m '
                .'where l.site_id = ? and m.id = l.media_item_id and m.uses > 0',
            [$this->site->id],
        );
        DB::insert(
            <<<'SQL'
            insert into left_behind (site_id, media_item_id, kind, title, key, field, address, gone_at)
            select m.site_id, m.id, g.kind, g.title, g.key, g.field, g.address, now()
            from gone_uses g join media_items m on m.id = g.id where m.site_id = ? and m.uses = 0
            on conflict (site_id, media_item_id) do update set kind = excluded.kind, title = excluded.title,
                key = excluded.key, field = excluded.field, address = excluded.address, gone_at = excluded.gone_at
            SQL
            ,
            [$this->site->id],
        );
    }

    private function addresses(): void
    {
        $bind = ['reading' => $this->reading->id, 'site' => $this->site->id];
        foreach (['staged_references' => 'false', 'staged_links' => 'true'] as $table => $leads) {
            DB::insert(
                <<<SQL
                insert into addresses (site_id, url_hash, url, leads)
                select distinct on (url_hash) cast(:site as bigint), url_hash, url, $leads
                from $table where reading_id = :reading and url_hash is not null on conflict do nothing
                SQL
                ,
                $bind,
            );
        }
        DB::insert(
            <<<'SQL'
            insert into media_references (site_id, record_id, field, start, length, value, names, role, "fetch",
                layers, line, col, context, target_kind, address_id)
            select r.site_id, r.id, s.field, s.start, s.length, s.value, s.names, s.role, s."fetch", s.layers, s.line,
                s.col, s.context, s.target_kind, a.id
            from staged_references s join records r on r.site_id = :site and r.kind = s.kind and r.key = s.key
            left join addresses a on a.site_id = r.site_id and a.url_hash = s.url_hash where s.reading_id = :reading
            SQL
            ,
            $bind,
        );
        DB::insert(
            <<<'SQL'
            insert into links (site_id, record_id, field, start, length, value, role, line, address_id)
            select r.site_id, r.id, s.field, s.start, s.length, s.value, s.role, s.line, a.id
            from staged_links s join records r on r.site_id = :site and r.kind = s.kind and r.key = s.key
            join addresses a on a.site_id = r.site_id and a.url_hash = s.url_hash where s.reading_id = :reading
            SQL
            ,
            $bind,
        );
        DB::delete(
            <<<'SQL'
            delete from addresses a where a.site_id = ?
                and not exists (select 1 from media_references m where m.address_id = a.id)
                and not exists (select 1 from links l where l.address_id = a.id)
            SQL
            ,
            [$this->site->id],
        );
    }

    /**
     * Resolves what is new, what files that came, went or changed may mean now, and everything where the site is read
     * anew.
     */
    private function resolve(bool $moved): void
    {
        $resolver = new Resolver(
            new DbFileIndex($this->site->id),
            $this->site->renditionNames(),
            $this->site->map->mediaFolders,
            $this->site->map->mediaPages,
        );
        DB::statement(
            'create temporary table outcomes (id bigint primary key, outcome text, path text, asked text, candidates '
                .'jsonb, item text, sure boolean) on commit drop',
        );
        $cures = new Cures($this->site->renditionNames());
        $fixed = array_map(
            static fn (OutcomeKind $kind): string => $kind->value,
            array_filter(OutcomeKind::cases(), static fn (OutcomeKind $kind): bool => ! $kind->dependsOnFiles()),
        );
        $served = ['found', 'former-address', 'insecure-scheme', 'empty-file'];
        DB::table('addresses')
            ->where('site_id', $this->site->id)
            ->where('leads', false)
            ->when(
                ! $this->reading->anew,
                fn ($q) => $q->where(
                    fn ($either) => $either
                        ->whereNull('outcome')
                        // An address that is served is affected by its own file alone; one that is not, by any that may
                        // be meant.
                        ->when(
                            $moved,
                            fn ($m) => $m
                                ->orWhereNotIn('outcome', [...$fixed, ...$served])
                                ->orWhereIn('path', DB::table('moved_files')->select('path')),
                        ),
                ),
            )
            ->select('id', 'url')
            ->chunkById(2000, function ($rows) use ($resolver, $cures): void {
                $places = $pasted = [];
                /** @var stdClass $row */
                foreach ($rows as $row) {
                    $places[$row->id] = $this->site->addresses->locate($row->url);
                    if (str_starts_with($row->url, 'unreadable:')) {
                        $places[$row->id] = null;
                    } elseif (str_starts_with($row->url, ChunkReader::PASTED)) {
                        unset($places[$row->id]);
                        $pasted[$row->id] = new Outcome(OutcomeKind::Pasted, asked: $row->url);
                    }
                }
                $bulk = new BulkRows('outcomes', ['id', 'outcome', 'path', 'asked', 'candidates', 'item', 'sure']);
                foreach ($resolver->resolve($places) + $pasted as $id => $outcome) {
                    $bulk->add([
                        $id,
                        $outcome->kind->value,
                        $outcome->path,
                        $outcome->asked,
                        $outcome->candidates,
                        $outcome->item,
                        $cures->of(new Finding($outcome->kind, $outcome->asked, $outcome->path, $outcome->candidates))
                            ->isSure,
                    ]);
                }
                $bulk->flush();
            });
        DB::update(
            'update addresses a set outcome = o.outcome, path = o.path, asked = o.asked, candidates = o.candidates, '
                .'sure = o.sure from outcomes o where o.id = a.id',
        );
        DB::update(
            <<<'SQL'
            update addresses a set file_id = f.id, media_item_id = f.media_item_id
            from addresses b left join files f on f.site_id = b.site_id and f.path = b.path
            where a.id = b.id and a.site_id = :site and not b.leads and b.outcome <> 'media-page'
                and (a.file_id is distinct from f.id
                or a.media_item_id is distinct from f.media_item_id)
            SQL
            ,
            ['site' => $this->site->id],
        );
        // The page of an item leads to the item, though to none of its files.
        DB::update(
            <<<'SQL'
            update addresses a set media_item_id = m.id from outcomes o join media_items m on m.source_id = o.item
            where a.id = o.id and o.item is not null and m.site_id = a.site_id and a.media_item_id is distinct from m.id
            SQL
            ,
        );
    }

    /** Ties references to items and records, set by set. */
    private function connect(): void
    {
        $site = ['site' => $this->site->id];
        DB::update(
            'update media_references r set media_item_id = a.media_item_id from addresses a where r.address_id = a.id '
                .'and r.site_id = :site and r.media_item_id is distinct from a.media_item_id',
            $site,
        );
        DB::update(
            <<<'SQL'
            update media_references r set media_item_id = m.id
            from media_references q left join media_items m on m.site_id = q.site_id and m.source_id = q.value
            where r.id = q.id and q.names = 'media-item' and q.site_id = :site and r.media_item_id is distinct from m.id
            SQL
            ,
            $site,
        );
        DB::update(
            <<<'SQL'
            update media_references r set target_record_id = t.id
            from media_references q left join records t on t.site_id = q.site_id and t.kind = q.target_kind
                and t.key = q.value
            where r.id = q.id and q.names in ('record', 'owner') and q.site_id = :site
                and r.target_record_id is distinct from t.id
            SQL
            ,
            $site,
        );
        $findings = new Findings($this->site->id);
        $findings->settle();
        $findings->remember();
    }
}
