<?php

declare(strict_types=1);

namespace App\Redirects;

use App\Models\Site;
use Generator;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Redirects\Entry;

/** The redirects of a site: those of its own table, and those that plans made. */
final readonly class RedirectList
{
    private const BATCH = 2000;

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
     * For the web server of the address that the site had before: everything that content still asks for there and
     * that has its place now.
     *
     * @return callable(): Generator<Entry>
     */
    public function ofFormer(): callable
    {
        return function (): Generator {
            $addresses = $this->site->addresses();
            $after = '';
            do {
                $rows = DB::select(
                    <<<'SQL'
                    select asked, min(path) as path from addresses
                    where site_id = ? and outcome = 'former-address' and path is not null and asked > ?
                    group by asked order by asked limit ?
                    SQL
                    ,
                    [$this->site->id, $after, self::BATCH],
                );
                /** @var stdClass $row */
                foreach ($rows as $row) {
                    $after = (string) $row->asked;
                    $to = (string) $row->path;
                    yield new Entry(
                        $after,
                        preg_match('~^https?://~', $to) === 1 ? $to : $addresses->addressOfPage($to),
                    );
                }
            } while (count($rows) === self::BATCH);
        };
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
