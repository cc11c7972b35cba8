<?php

declare(strict_types=1);

namespace App\Redirects;

use App\Models\Site;
use App\Support\Sql;
use Generator;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Addresses\PageResolver;
use Ylema\Addresses\SiteAddresses;
use Ylema\Addresses\Url;
use Ylema\Addresses\Whose;
use Ylema\Plan\Expectation;
use Ylema\Redirects\Entry;

/** The redirects of a site: those of its own table, and those that plans made. */
final readonly class RedirectList
{
    private const BATCH = 2000;

    /** Changes that are asked what they mended, the newest first. */
    private const CHANGES = 500;

    public function __construct(private Site $site)
    {
    }

    /** @return callable(): Generator<Entry> in the order of their addresses; never all in memory */
    public function entries(): callable
    {
        return function (): Generator {
            $after = null;
            do {
                $rows = $this->query()
                    ->when($after !== null, fn (Builder $q) => $q->where('from_path', '>', $after))
                    ->orderBy('from_path')
                    ->limit(self::BATCH)
                    ->get();
                foreach ($rows as $row) {
                    $after = (string) $row->from_path;
                    yield new Entry($after, (string) $row->to_address, (int) $row->status);
                }
            } while ($rows->count() === self::BATCH);
        };
    }

    /**
     * For the web server of the address that the site had before: all that the world may still ask for there and that
     * has its place now. That is what content names there; what pages show from there; what people asked for, by the
     * access logs, as an address was the same then; and what changes have mended, since others wrote it down as well.
     *
     * @return callable(): Generator<Entry>
     */
    public function ofFormer(): callable
    {
        return function (): Generator {
            $addresses = $this->site->addresses();
            $former = array_map(
                static fn (Url $url): string => rtrim((string) $url, '/').'/',
                $addresses->former(),
            );
            $after = '';
            do {
                $rows = DB::select(
                    <<<'SQL'
                    select asked, min(path) as path, bool_or(is_file) as is_file from (
                        select asked, path, exists (
                            select 1 from files f where f.site_id = a.site_id and f.path = a.path) as is_file
                        from addresses a
                        where site_id = :site and outcome = 'former-address' and path is not null
                        union all
                        select l.path, l.path, true from asked_for l
                        join files f on f.site_id = l.site_id and f.path = l.path
                        where l.site_id = :site2 and l.visitors + l.other_sites + l.mail > 0
                        union all
                        select s.path, s.path, true from sightings s
                        join files f on f.site_id = s.site_id and f.path = s.path
                        where s.site_id = :site3 and exists (
                            select 1 from unnest(cast(:former as text[])) as t(base) where starts_with(s.url, t.base))
                        union all
                        select m.path, m.path, true from unnest(cast(:mended as text[])) as m(path)
                        join files f on f.site_id = :site4 and f.path = m.path
                    ) as wanted where asked > :after group by asked order by asked limit :batch
                    SQL
                    ,
                    [
                        'site' => $this->site->id, 'site2' => $this->site->id, 'site3' => $this->site->id,
                        'site4' => $this->site->id, 'former' => Sql::texts($former),
                        'mended' => Sql::texts($mended ??= $this->mended($addresses)), 'after' => $after,
                        'batch' => self::BATCH,
                    ],
                );
                /** @var stdClass $row */
                foreach ($rows as $row) {
                    $after = (string) $row->asked;
                    $to = (string) $row->path;
                    // A file is known by its path, which may hold a "?", and a page by its key.
                    yield new Entry(
                        $row->is_file === true ? PageResolver::key($after) : $after,
                        match (true) {
                            preg_match('~^https?://~', $to) === 1 => $to,
                            $row->is_file === true => $addresses->addressOf($to),
                            default => $addresses->addressOfPage($to),
                        },
                    );
                }
            } while (count($rows) === self::BATCH);
        };
    }

    /** @return list<string> paths that content named at a former address, until a change mended them */
    private function mended(SiteAddresses $addresses): array
    {
        $paths = [];
        $changes = DB::table('changes')
            ->where('site_id', $this->site->id)
            ->whereRaw("jsonb_array_length(coalesce(expectation::jsonb->'unsaid', '[]'::jsonb)) > 0")
            ->orderByDesc('id')
            ->limit(self::CHANGES)
            ->pluck('expectation');
        foreach ($changes as $expectation) {
            $said = json_decode((string) $expectation, true);
            foreach (Expectation::fromArray(is_array($said) ? $said : [])->unsaid as $value) {
                $place = $addresses->locate($value);
                if ($place?->whose === Whose::Former && $place->path !== null) {
                    $paths[$place->path] = true;
                }
            }
        }

        return array_map(strval(...), array_keys($paths));
    }

    /**
     * @return array{total: int, verdicts: array<string, int>, redirects: list<array<string, mixed>>} those that a
     *       check found wrong first
     */
    public function page(string $words, int $offset, int $limit): array
    {
        $query = $this->query()->when($words !== '', function (Builder $q) use ($words): void {
            $like = '%'.addcslashes($words, '%_\\').'%';
            $q->where(
                fn (Builder $either) => $either
                    ->where('from_path', 'ilike', $like)
                    ->orWhere('to_address', 'ilike', $like),
            );
        });
        $rows = (clone $query)
            ->orderByRaw("verdict is null, verdict = 'right', from_path")
            ->offset($offset)
            ->limit($limit)
            ->get();
        $verdicts = [];
        $counted = $this->query()
            ->selectRaw("coalesce(verdict, 'unchecked') as verdict, count(*) as n")
            ->groupBy('redirects.verdict')
            ->get();
        foreach ($counted as $row) {
            $verdicts[(string) $row->verdict] = (int) $row->n;
        }

        return [
            'total' => (clone $query)->count(),
            'verdicts' => $verdicts,
            'redirects' => array_values($rows->map(self::said(...))->all()),
        ];
    }

    private function query(): Builder
    {
        return DB::table('redirects')->where('site_id', $this->site->id);
    }

    /** @return array<string, mixed> */
    private static function said(stdClass $row): array
    {
        return [
            'from' => $row->from_path,
            'to' => $row->to_address,
            'status' => (int) $row->status,
            'in_table' => $row->in_table === true,
            'verdict' => $row->verdict,
            'words' => $row->words,
            'checked_at' => $row->checked_at,
        ];
    }
}
