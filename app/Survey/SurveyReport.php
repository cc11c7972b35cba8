<?php

declare(strict_types=1);

namespace App\Survey;

use App\Models\Site;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;

/** What the last surveys showed: what does not load, what the map does not know, what it knows and nobody sees. */
final readonly class SurveyReport
{
    /** Its figures before anything was asked. */
    public const NONE = [
        'pages' => 0,
        'media' => 0,
        'failing' => 0,
        'unmapped' => 0,
        'unseen' => 0,
        'dead_pages' => 0,
        'bytes' => 0,
        'slow' => 0,
    ];

    /** @param  list<int>|null  $pages only what these show; null for all */
    public function __construct(private Site $site, private ?array $pages = null)
    {
    }

    /**
     * @return array{
     *     pages: int,
     *     media: int,
     *     failing: int,
     *     unmapped: int,
     *     unseen: int,
     *     dead_pages: int,
     *     bytes: int,
     *     slow: int,
     * }
     */
    public function figures(): array
    {
        $row = DB::selectOne(
            <<<'SQL'
            select count(*) filter (where kind = 'page' and status is not null) as pages,
                count(*) filter (where kind = 'page' and status is not null and (status >= 400 or status = 0))
                    as dead_pages,
                count(*) filter (where kind = 'page' and ms > 3000) as slow
            from visits where site_id = ?
            SQL
            ,
            [$this->site->id],
        );
        $media = DB::selectOne(
            <<<SQL
            select count(*) as media,
                coalesce(sum(weight) filter (where status between 200 and 299), 0) as bytes
            from visits v where v.site_id = ? and v.kind = 'media' and v.status is not null and {$this->isShown()}
            SQL
            ,
            [$this->site->id],
        );
        $apart = DB::selectOne(
            <<<'SQL'
            select count(distinct coalesce(path, url)) as unmapped from sightings
            where site_id = ? and seen and not mapped
            SQL
            ,
            [$this->site->id],
        );
        $unseen = DB::selectOne(
            "select count(*) as n from ({$this->unseenPaths()}) as u",
            [$this->site->id, $this->site->id],
        );

        return [
            'pages' => $this->pages === null ? self::int($row, 'pages') : count($this->pages),
            'media' => self::int($media, 'media'),
            'failing' => $this->countFailing(),
            'unmapped' => self::int($apart, 'unmapped'),
            'unseen' => self::int($unseen, 'n'),
            'dead_pages' => self::int($row, 'dead_pages'),
            'bytes' => self::int($media, 'bytes'),
            'slow' => self::int($row, 'slow'),
        ];
    }

    public function sentence(): string
    {
        $f = $this->figures();
        if ($f['pages'] === 0) {
            return 'No page was asked for yet.';
        }
        $cached = 0;
        foreach ($this->failing(0, 500)['rows'] as $row) {
            $cached += $row['cached'] === $row['pages'] ? 1 : 0;
        }
        $loads =
            number_format($f['media'] - $f['failing'])
            .' pictures and other files load on '
            .number_format($f['pages'])
            .' pages';

        $fails = number_format($f['failing']).($f['failing'] === 1 ? ' does not' : ' do not');
        if ($cached > 0) {
            $fails .= ', '.($cached === $f['failing'] ? 'all' : number_format($cached))
                .' of them only on pages that a cache made before the last change';
        }

        return $f['failing'] === 0 ? "$loads; none fails." : "$loads, $fails.";
    }

    /** @return array{total: int, rows: list<array<string, mixed>>} what does not load, met on most pages first */
    public function failing(int $offset, int $limit): array
    {
        $rows = DB::select(
            <<<SQL
            select v.url, v.status, v.problem, v.asked as path, s.pages, s.record_id, s.role, s.cached
            from visits v join (select s.url_hash, count(*) as pages, min(s.record_id) as record_id,
                    min(s.role) as role, count(*) filter (where s.made_at < c.at) as cached
                from sightings s, ({$this->lastChange()}) as c
                where s.site_id = ? and s.seen and {$this->isChosen()} group by s.url_hash) as s
                on s.url_hash = v.url_hash
            where {$this->fails()} order by s.cached = s.pages, s.pages desc, v.url limit ? offset ?
            SQL
            ,
            [$this->site->id, $this->site->id, $this->site->id, $limit, $offset],
        );

        return [
            'total' => $this->countFailing(),
            'rows' => array_values(
                array_map(
                    static fn (stdClass $row): array => [
                        'url' => $row->url,
                        'path' => $row->path,
                        'why' => (int) $row->status === 0
                            ? (string) ($row->problem ?? 'It does not answer.')
                            : "It answers {$row->status}.",
                        'status' => (int) $row->status,
                        'pages' => (int) $row->pages,
                        'cached' => (int) $row->cached,
                        'record' => (int) $row->record_id,
                        'role' => (string) $row->role,
                    ],
                    $rows,
                ),
            ),
        ];
    }

    private function countFailing(): int
    {
        $row = DB::selectOne(
            "select count(*) as n from visits v where {$this->fails()} and {$this->isShown()}",
            [$this->site->id],
        );

        return self::int($row, 'n');
    }

    /** @return array{total: int, rows: list<array<string, mixed>>} what pages show and the map does not have */
    public function unmapped(int $offset, int $limit): array
    {
        return $this->apart('s.seen and not s.mapped', '', $offset, $limit, $this->figures()['unmapped']);
    }

    /** @return array{total: int, rows: list<array<string, mixed>>} what the map has and no page shows */
    public function unseen(int $offset, int $limit): array
    {
        return $this->apart(
            'not s.seen and s.mapped and s.made_at >= c.at',
            'having not exists (select 1 from sightings o join files g on g.site_id = o.site_id and g.path = o.path '
                .'where o.site_id = min(s.site_id) and o.seen and g.media_item_id = min(f.media_item_id))',
            $offset,
            $limit,
            $this->figures()['unseen'],
        );
    }

    /** @return array{total: int, rows: list<array<string, mixed>>} */
    private function apart(string $which, string $having, int $offset, int $limit, int $total): array
    {
        $rows = DB::select(
            <<<SQL
            select coalesce(s.path, s.url) as what, min(s.url) as url, min(s.path) as path, count(*) as pages,
                min(s.record_id) as record_id, min(s.role) as role, min(f.media_item_id) as item, min(f.id) as file_id,
                min(f.sha256) as sha256, min(f.mime) as mime, (array_agg(r.title order by r.id))[1] as title
            from sightings s join records r on r.id = s.record_id cross join ({$this->lastChange()}) as c
            left join files f on f.site_id = s.site_id and f.path = s.path
            where s.site_id = ? and s.seen <> s.mapped and $which
            group by coalesce(s.path, s.url) $having
            order by count(*) desc, 1 limit ? offset ?
            SQL
            ,
            [$this->site->id, $this->site->id, $limit, $offset],
        );

        return [
            'total' => $total,
            'rows' => array_values(
                array_map(
                    static fn (stdClass $row): array => [
                        'url' => $row->url,
                        'path' => $row->path,
                        'pages' => (int) $row->pages,
                        'record' => (int) $row->record_id,
                        'title' => $row->title,
                        'role' => $row->role,
                        'item' => $row->item,
                        'file_id' => $row->file_id,
                        'sha256' => $row->sha256 === null ? null : trim((string) $row->sha256),
                        'mime' => $row->mime,
                    ],
                    $rows,
                ),
            ),
        ];
    }

    private function fails(): string
    {
        return "v.site_id = ? and v.kind = 'media' and (v.status >= 400 or v.status = 0)";
    }

    private function isChosen(): string
    {
        return $this->pages === null ? 'true' : "s.record_id = any(cast('".Sql::ids($this->pages)."' as bigint[]))";
    }

    /**
     * When anything was last changed here, to the second that caches count in; what one made before may still show what
     * was then.
     */
    private function lastChange(): string
    {
        return "select coalesce(max(greatest(applied_at, undone_at)), 'epoch') - interval '1 second' as at from "
            .'changes where site_id = ?';
    }

    private function isShown(): string
    {
        return 'exists (select 1 from sightings s where s.site_id = v.site_id and s.url_hash = v.url_hash '
            ."and s.seen and {$this->isChosen()})";
    }

    /** An item is unseen where no file of it was seen anywhere: which size a page takes, and whose turn it is, vary. */
    private function unseenPaths(): string
    {
        return <<<SQL
        select s.path from sightings s cross join ({$this->lastChange()}) as c
        left join files f on f.site_id = s.site_id and f.path = s.path
        where s.site_id = ? and s.mapped and not s.seen and s.made_at >= c.at group by s.path
        having not exists (select 1 from sightings o join files g on g.site_id = o.site_id and g.path = o.path
            where o.site_id = min(s.site_id) and o.seen and g.media_item_id = min(f.media_item_id))
        SQL;
    }

    private static function int(mixed $row, string $column): int
    {
        return $row instanceof stdClass ? (int) $row->{$column} : 0;
    }
}
