<?php

declare(strict_types=1);

namespace App\Retire;

use App\Models\Site;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Csv;

/** What the media of a site weigh: on disk, in each backup, and for whoever visits a page. */
final readonly class Weight
{
    public const TABLES = ['folders', 'types', 'standings', 'years', 'pages'];

    /** A file this many times as wide as its box wastes what screens with many pixels do not need. */
    private const WASTE = 2.5;

    private const PAGES = 60;

    private const FOLDERS = 400;

    public function __construct(private Site $site)
    {
    }

    /** @return array<string, mixed> */
    public function all(): array
    {
        return [
            'folders' => $this->table('folders'),
            'types' => $this->table('types'),
            'standings' => $this->table('standings'),
            'years' => $this->table('years'),
            'pages' => $this->table('pages'),
            'total' => $this->total(),
        ];
    }

    /**
     * One table, row by row, for a file.
     *
     * @return iterable<string>
     */
    public function csv(string $name): iterable
    {
        $head = true;
        foreach ($this->table($name) as $row) {
            if ($head) {
                yield Csv::row(array_keys($row));
                $head = false;
            }
            yield Csv::row(array_values($row));
        }
    }

    /** @return list<array<string, string|int|null>> */
    public function table(string $name): array
    {
        $rows = match ($name) {
            'folders' => $this->grouped("regexp_replace(f.path, '/[^/]*$', '')", 'bytes desc', self::FOLDERS),
            'types' => $this->grouped("regexp_replace(f.mime, '^.*/(?:x-)?|\\+xml$', '', 'g')", 'bytes desc', 60),
            'standings' => $this->grouped('i.standing', 'bytes desc', 10),
            'years' => $this->grouped("to_char(to_timestamp(f.modified) at time zone 'UTC', 'YYYY')", 'name', 100),
            default => $this->pages(),
        };

        return array_values(
            array_map(
                static fn (stdClass $row): array => array_map(
                    static fn (mixed $value): string|int|null => is_int($value) || $value === null
                        ? $value
                        : (is_string($value) && preg_match('~^\d{1,15}$~D', $value) === 1 && strlen($value) > 4
                            ? (int) $value
                            : (is_scalar($value)
                                ? (string) $value
                                : '')),
                    (array) $row,
                ),
                $rows,
            ),
        );
    }

    /** @return array<string, int> */
    private function total(): array
    {
        $row = DB::selectOne(
            <<<'SQL'
            select coalesce(sum(size), 0)::bigint as bytes, count(*) as files,
                coalesce(sum(size) filter (where not is_original), 0)::bigint as renditions,
                coalesce(sum(size) filter (where verdict = 'safe'), 0)::bigint as safe
            from files where site_id = ?
            SQL
            ,
            [$this->site->id],
        );
        $resting = DB::table('resting_files')->where('site_id', $this->site->id)->sum('size');
        $archived = DB::table('bag_files')->where('site_id', $this->site->id)->sum('size');
        $total = array_map(static fn (mixed $value): int => is_numeric($value) ? (int) $value : 0, (array) $row);

        return [
            'bytes' => $total['bytes'] ?? 0,
            'files' => $total['files'] ?? 0,
            'renditions' => $total['renditions'] ?? 0,
            'safe' => $total['safe'] ?? 0,
            'resting' => (int) $resting,
            'archived' => (int) $archived,
        ];
    }

    /** @return list<stdClass> */
    private function grouped(string $by, string $order, int $limit): array
    {
        return array_values(
            DB::select(
                <<<SQL
                select $by as name, count(distinct i.id) as items, count(*) as files, sum(f.size)::bigint as bytes,
                    coalesce(sum(f.size) filter (where not f.is_original), 0)::bigint as renditions,
                    coalesce(sum(f.size) filter (where f.verdict = 'safe'), 0)::bigint as safe
                from files f left join media_items i on i.id = f.media_item_id
                where f.site_id = ? group by 1 order by $order limit $limit
                SQL
                ,
                [$this->site->id],
            ),
        );
    }

    /** @return list<stdClass> what a first visit downloads, and what of it is far larger than its box */
    private function pages(): array
    {
        $waste = self::WASTE;
        $limit = self::PAGES;

        return array_values(
            DB::select(
                <<<SQL
                with shown as (
                    select s.record_id, count(*) as files, sum(v.weight)::bigint as bytes
                    from sightings s join visits v on v.site_id = s.site_id and v.url_hash = s.url_hash
                    where s.site_id = :site and s.seen and v.weight is not null and v.status between 200 and 299
                    group by 1 order by 3 desc limit $limit
                ), boxed as (
                    select m.record_id, f.id, f.size, f.width,
                        max((m.context->'attributes'->>'width')::integer) as box
                    from shown join media_references m on m.record_id = shown.record_id
                    join addresses a on a.id = m.address_id join files f on f.id = a.file_id
                    where m.context->'attributes'->>'width' ~ '^[1-9][0-9]{0,4}$' and f.width is not null
                    group by 1, 2, 3, 4
                ), waste as (
                    select record_id, count(*) as large,
                        sum(size - size * least(1.0, power(2.0 * box / width, 2)))::bigint as saves
                    from boxed where width > $waste * box group by 1
                )
                select r.title as name, r.address, r.id as record, shown.files, shown.bytes,
                    coalesce(w.large, 0) as large,
                    coalesce(w.saves, 0)::bigint as saves
                from shown join records r on r.id = shown.record_id left join waste w on w.record_id = r.id
                order by shown.bytes desc, r.id
                SQL
                ,
                ['site' => $this->site->id],
            ),
        );
    }
}
