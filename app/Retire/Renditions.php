<?php

declare(strict_types=1);

namespace App\Retire;

use App\Models\Site;
use App\Sites\OpenSite;
use Illuminate\Support\Facades\DB;
use stdClass;

/** The sizes that the site made of its pictures, and what needs them. */
final readonly class Renditions
{
    /** SQL: the height of a size that is cut, which an own shape would not have; null for an own shape. */
    private const HEIGHT = <<<'SQL'
    case when o.width is null or o.height is null or f.height is null or f.height = 0 or o.height = 0 then f.height
        when abs(ln((f.width::float / f.height) / (o.width::float / o.height))) > 0.03 then f.height end
    SQL;

    /** Paths that are told apart by their size in one answer; a site with more has one cause for many. */
    private const MISSING = 200_000;

    public function __construct(private Site $site)
    {
    }

    /** @return array{sizes: list<array<string, mixed>>, missing: int, usual: list<int>} */
    public function table(OpenSite $open): array
    {
        $height = self::HEIGHT;
        $rows = DB::select(
            <<<SQL
            with named as (
                select a.file_id, count(*) as n from addresses a join media_references m on m.address_id = a.id
                where a.site_id = :site and a.file_id is not null and not a.leads group by 1
            ), seen as (
                select path from sightings where site_id = :site and seen and path is not null group by path
            )
            select s.width, s.height, count(*) as files, sum(s.size) as bytes, sum(s.refs) as refs,
                count(*) filter (where s.refs > 0) as named, count(*) filter (where s.seen) as seen,
                count(*) filter (where s.asked) as asked, count(*) filter (where s.verdict = 'safe') as safe,
                coalesce(sum(s.size) filter (where s.verdict = 'safe'), 0) as safe_bytes, min(s.path) as sample
            from (
                select f.path, f.size, f.width, $height as height, f.verdict, coalesce(n.n, 0) as refs,
                    v.path is not null as seen, coalesce(l.visitors + l.other_sites + l.mail, 0) > 0 as asked
                from files f left join files o on o.media_item_id = f.media_item_id and o.is_original
                left join named n on n.file_id = f.id left join seen v on v.path = f.path
                left join asked_for l on l.site_id = f.site_id and md5(l.path) = md5(f.path) and l.path = f.path
                where f.site_id = :site and not f.is_original and f.width is not null
            ) as s group by 1, 2 order by 4 desc, 1, 2 limit 200
            SQL
            ,
            ['site' => $this->site->id],
        );
        $missing = $this->missing($open);
        $sizes = [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $sizes[] = [
                'width' => (int) $row->width,
                'height' => $row->height === null ? null : (int) $row->height,
                'files' => (int) $row->files,
                'bytes' => (int) $row->bytes,
                'refs' => (int) $row->refs,
                'named' => (int) $row->named,
                'seen' => (int) $row->seen,
                'asked' => (int) $row->asked,
                'safe' => (int) $row->safe,
                'safe_bytes' => (int) $row->safe_bytes,
                'missing' => $row->height === null ? $missing[(int) $row->width] ?? 0 : 0,
                'rule' => $open->renditionNames()->patternOf((string) $row->sample),
            ];
        }

        return [
            'sizes' => $sizes,
            'missing' => array_sum($missing),
            'usual' => Keeping::of($this->site)->widths ?? [],
        ];
    }

    /** @return array{total: int, rows: list<array<string, mixed>>} the files of one size, what may rest first */
    public function files(int $width, ?int $height, int $offset, int $limit): array
    {
        $shape = self::HEIGHT;
        $from = <<<SQL
        from files f left join files o on o.media_item_id = f.media_item_id and o.is_original
        left join media_items i on i.id = f.media_item_id
        where f.site_id = ? and not f.is_original and f.width = ? and ($shape) is not distinct from cast(? as integer)
        SQL;
        $bind = [$this->site->id, $width, $height];
        $total = DB::selectOne("select count(*) as n $from", $bind);
        $rows = DB::select(
            'select f.id, f.path, f.size, f.sha256, f.mime, f.height, f.verdict, f.verdict_by, i.id as item, i.title '
                ."$from order by case f.verdict when 'safe' then 0 when 'ask' then 1 else 2 end, f.size desc, f.id "
                .'offset ? limit ?',
            [...$bind, $offset, $limit],
        );

        return [
            'total' => $total instanceof stdClass ? (int) $total->n : 0,
            'rows' => array_values(
                array_map(
                    static fn (stdClass $row): array => [
                        'id' => (int) $row->id,
                        'path' => (string) $row->path,
                        'size' => (int) $row->size,
                        'sha256' => trim((string) $row->sha256),
                        'mime' => (string) $row->mime,
                        'verdict' => (string) $row->verdict,
                        'because' => $row->verdict_by === null ? null : (string) $row->verdict_by,
                        'item' => (int) $row->item,
                        'title' => (string) $row->title,
                    ],
                    $rows,
                ),
            ),
        ];
    }

    /** @return array<int, int> width → how many that rows list or references name are not there, and do not rest */
    private function missing(OpenSite $open): array
    {
        $missing = [];
        $rows = DB::cursor(self::LOST.' limit '.self::MISSING, ['site' => $this->site->id]);
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $width = $open->renditionNames()->sizeIn((string) $row->path)[0] ?? 0;
            $missing[$width] = ($missing[$width] ?? 0) + 1;
        }

        return $missing;
    }

    /** SQL: paths of renditions that are not there, each with its item. */
    public const LOST = <<<'SQL'
    select lost.path, min(lost.item) as item from (
        select r.path, m.id as item from media_items m
        cross join lateral jsonb_array_elements_text(m.renditions) as r(path) where m.site_id = :site
        union all
        select a.asked, f.media_item_id from addresses a join files f on f.site_id = a.site_id and f.path = a.path
        where a.site_id = :site and a.outcome = 'missing-rendition'
    ) as lost
    where lost.path is not null
        and not exists (select 1 from files f where f.site_id = :site and f.path = lost.path)
        and not exists (select 1 from resting_files f where f.site_id = :site and f.path = lost.path)
    group by lost.path order by item, lost.path
    SQL;
}
