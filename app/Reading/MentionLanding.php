<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\Reading;
use Illuminate\Support\Facades\DB;
use stdClass;

/** Brings mentions from the staging table into the index, and tells from their counts which of them say something. */
final readonly class MentionLanding
{
    private const COLUMNS =
        'source, place, at, field, start, length, line, folder, stem, ending, item, strength';

    /** A column or file that names this many of a hundred items is a list of them, as a log of uploads is. */
    private const PERCENT = 90;

    /** With fewer items, a page may well name nearly all of them. */
    private const LISTED = 10;

    public function __construct(private int $site, private Reading $reading)
    {
    }

    /**
     * @param  bool  $whole whether code and what lies beside the field map were searched as well
     * @return list<int> items that are named by more or by less than before, where not all may be
     */
    public function land(bool $whole): array
    {
        $bind = ['site' => $this->site, 'reading' => $this->reading->id];
        $touched = $whole ? [] : $this->named();
        DB::delete(
            <<<'SQL'
            delete from mentions m using records r, staged_records s where m.record_id = r.id and r.site_id = :site
                and s.reading_id = :reading and s.changed and s.kind = r.kind and s.key = r.key
            SQL
            ,
            $bind,
        );
        if ($whole) {
            DB::delete('delete from mentions where site_id = ? and record_id is null', [$this->site]);
            $this->code();
        }
        if ($this->reading->anew) {
            DB::table('name_words')->where('site_id', $this->site)->delete();
        }
        $columns = self::COLUMNS;
        $own = 's.'.str_replace(', ', ', s.', $columns);
        DB::insert(
            <<<SQL
            insert into mentions (site_id, record_id, $columns)
            select cast(:site as bigint), r.id, $own from staged_mentions s
            left join records r on r.site_id = :site and r.kind = s.kind and r.key = s.key
            where s.reading_id = :reading and s.source <> 'itself' and (s.kind is null or r.id is not null)
            SQL
            ,
            $bind,
        );
        $this->read();
        $this->words();
        if ($whole) {
            $this->keys();
            $this->lists();
            DB::update('update files set netted = true where site_id = ? and not netted', [$this->site]);
        }

        return $whole ? [] : array_values(array_unique([...$touched, ...$this->named()]));
    }

    /** @return list<int> items that changed records may name */
    private function named(): array
    {
        $rows = DB::select(
            <<<'SQL'
            select distinct f.media_item_id as id from staged_records s
            join records r on r.site_id = :site and r.kind = s.kind and r.key = s.key
            join mentions m on m.record_id = r.id
            join files f on f.site_id = :site and f.name_stem = m.stem and f.media_item_id is not null
            where s.reading_id = :reading and s.changed
            SQL
            ,
            ['site' => $this->site, 'reading' => $this->reading->id],
        );

        return array_values(array_map(static fn (stdClass $row): int => (int) $row->id, $rows));
    }

    /** What readers took for an address of no file, and what then turned out to mean one, is understood. */
    private function read(): void
    {
        DB::delete(
            <<<'SQL'
            delete from mentions m using records r, staged_records s, media_references e, addresses a
            where r.site_id = :site and s.reading_id = :reading and s.kind = r.kind and s.key = r.key
                and m.record_id = r.id and e.record_id = r.id and e.field = m.field and e.start <= m.start
                and e.start + e.length >= m.start + m.length and a.id = e.address_id and a.media_item_id is not null
                -- Its query is not.
                and position('?' in substr(e.value, 1, cast(m.start - e.start as integer))) = 0
            SQL
            ,
            ['site' => $this->site, 'reading' => $this->reading->id],
        );
    }

    /** The files that the site's own code consists of. */
    private function code(): void
    {
        DB::delete('delete from code_files where site_id = ?', [$this->site]);
        DB::insert(
            'insert into code_files (site_id, path) select distinct cast(? as bigint), place from staged_mentions '
                ."where reading_id = ? and source = 'itself'",
            [$this->site, $this->reading->id],
        );
    }

    /** A plain word that stands in more than a few places is one of the site's own, and names no file. */
    private function words(): void
    {
        DB::insert(
            <<<'SQL'
            insert into name_words (site_id, stem)
            select site_id, stem from mentions where site_id = :site and strength = 'word'
            group by site_id, stem having count(*) > :places on conflict do nothing
            SQL
            ,
            ['site' => $this->site, 'places' => StagedMentions::WORDS],
        );
        DB::delete(
            "delete from mentions m using name_words w where m.site_id = ? and m.strength = 'word' "
                .'and w.site_id = m.site_id and w.stem = m.stem',
            [$this->site],
        );
    }

    /** A column or file that names nearly all items may be a list that says of none that it is used. */
    private function lists(): void
    {
        // Without statistics, the question below would be asked row by row.
        DB::statement('analyze mentions');
        DB::statement(
            'create temporary table named_items on commit drop as '
                .'select mention_id, media_item_id from mentioned('.$this->site.', null)',
        );
        DB::statement('analyze named_items');
        DB::insert(
            <<<'SQL'
            with named as (
                select m.source, m.place, count(distinct v.media_item_id) as n
                from mentions m join named_items v on v.mention_id = m.id
                where m.site_id = :site and m.source in ('table', 'file') and m.strength <> 'key' group by 1, 2
            ), items as (
                select count(distinct media_item_id) as n from files where site_id = :site and is_original
            )
            insert into place_questions (site_id, kind, source, place, names, of, reading_id)
            select cast(:site as bigint), 'list', source, place, named.n, items.n, cast(:reading as bigint)
            from named, items where items.n >= :least and 100 * named.n >= :percent * items.n
            on conflict (site_id, kind, source, place) do update
            set names = excluded.names, of = excluded.of, reading_id = excluded.reading_id
            SQL
            ,
            [
                'site' => $this->site,
                'reading' => $this->reading->id,
                'least' => self::LISTED,
                'percent' => self::PERCENT,
            ],
        );
    }

    private function keys(): void
    {
        DB::insert(
            <<<'SQL'
            insert into place_questions (site_id, kind, source, place, names, of, reading_id)
            select cast(:site as bigint), 'keys', 'table', a.place, a.names, a.of, cast(:reading as bigint)
            from reading_chunks c
            cross join lateral jsonb_to_recordset(c.beside->'asked') as a(place text, names integer, of integer)
            where c.reading_id = :reading
            on conflict (site_id, kind, source, place) do update
            set names = excluded.names, of = excluded.of, reading_id = excluded.reading_id
            SQL
            ,
            ['site' => $this->site, 'reading' => $this->reading->id],
        );
    }
}
