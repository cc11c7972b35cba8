<?php

declare(strict_types=1);

namespace App\Retire;

use App\Models\Site;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;

/** What may rest, what rests, and what went to the archive, counted and listed. */
final readonly class RestingList
{
    /** SQL: the row that stands for an item: its original, or a rendition that rests alone. */
    private const HEADS = <<<'SQL'
    (f.path = f.item or not exists (select 1 from resting_files o where o.site_id = f.site_id and o.path = f.item
        and o.item = f.item))
    SQL;

    public function __construct(private Site $site)
    {
    }

    /** @return array<string, mixed> */
    public function lanes(): array
    {
        $idle = [];
        $rows = DB::select(
            <<<'SQL'
            select m.verdict, count(distinct m.id) as items, count(f.id) as files, coalesce(sum(f.size), 0) as bytes
            from media_items m left join files f on f.media_item_id = m.id
            where m.site_id = ? and m.verdict <> 'needed' group by m.verdict
            SQL
            ,
            [$this->site->id],
        );
        foreach ($rows as $row) {
            $idle[(string) $row->verdict] = self::weighed($row);
        }
        $sizes = DB::selectOne(
            <<<'SQL'
            select count(*) as files, coalesce(sum(f.size), 0) as bytes, count(distinct f.media_item_id) as items
            from files f join media_items m on m.id = f.media_item_id
            where f.site_id = ? and not f.is_original and f.verdict = 'safe' and m.verdict = 'needed'
            SQL
            ,
            [$this->site->id],
        );
        $resting = DB::selectOne(
            <<<'SQL'
            select count(*) as files, coalesce(sum(size), 0) as bytes, count(distinct item) as items,
                count(*) filter (where called_at is not null) as called,
                count(*) filter (where called_at is null and until <= current_date) as over,
                coalesce(sum(size) filter (where called_at is null and until <= current_date), 0) as over_bytes,
                min(until) as first
            from resting_files where site_id = ?
            SQL
            ,
            [$this->site->id],
        );
        $archived = DB::selectOne(
            'select coalesce(sum(files), 0) as files, coalesce(sum(weight), 0) as bytes, count(*) as items, '
                ."count(*) filter (where trouble::text <> '[]') as damaged "
                ."from bags where site_id = ? and state = 'sealed'",
            [$this->site->id],
        );
        $none = ['items' => 0, 'files' => 0, 'bytes' => 0];

        return [
            'safe' => $idle['safe'] ?? $none,
            'ask' => $idle['ask'] ?? $none,
            'sizes' => self::weighed($sizes),
            'resting' => [
                ...self::weighed($resting),
                'called' => self::number($resting, 'called'),
                'over' => self::number($resting, 'over'),
                'over_bytes' => self::number($resting, 'over_bytes'),
                'first' => $resting instanceof stdClass && is_string($resting->first) ? $resting->first : null,
            ],
            'archived' => [
                'files' => self::number($archived, 'files'),
                'bytes' => self::number($archived, 'bytes'),
                'bags' => self::number($archived, 'items'),
                'damaged' => self::number($archived, 'damaged'),
            ],
            'looked' => $this->looked(),
            'keeping' => get_object_vars(Keeping::of($this->site)),
        ];
    }

    /** @return array{total: int, rows: list<array<string, mixed>>} */
    public function page(string $q, string $state, int $offset, int $limit): array
    {
        $query = $this->heads($q, $state);
        $total = (clone $query)->count();
        $rows = $query
            ->selectRaw(
                'f.*, '
                    .'(select count(*) from resting_files g where g.site_id = f.site_id and g.item = f.item) as files,'
                    .' (select sum(size) from resting_files g where g.site_id = f.site_id and g.item = f.item) as bytes,'
                    .' (select min(g.called_by) from resting_files g where g.site_id = f.site_id and g.item = f.item '
                    .'and g.called_at is not null) as called, f.until - current_date as days',
            )
            ->orderByRaw('f.called_at is null, f.until, f.item, f.path, f.id')
            ->offset($offset)
            ->limit($limit)
            ->get();

        return [
            'total' => $total,
            'rows' => array_values($rows->map(self::row(...))->all()),
        ];
    }

    private function heads(string $q, string $state): Builder
    {
        return DB::table('resting_files as f')
            ->where('f.site_id', $this->site->id)
            ->whereRaw(self::HEADS)
            ->when(
                $q !== '',
                fn ($w) => $w->where(
                    fn ($e) => $e
                        ->where('f.path', 'ilike', '%'.addcslashes($q, '%_\\').'%')
                        ->orWhere('f.title', 'ilike', '%'.addcslashes($q, '%_\\').'%'),
                ),
            )
            ->when(
                $state === 'called',
                fn ($w) => $w->whereExists(
                    fn ($e) => $e
                        ->from('resting_files as c')
                        ->whereColumn('c.site_id', 'f.site_id')
                        ->whereColumn('c.item', 'f.item')
                        ->whereNotNull('c.called_at'),
                ),
            )
            ->when($state === 'over', fn ($w) => $w->whereNull('f.called_at')->whereRaw('f.until <= current_date'));
    }

    /** @return array<string, mixed> */
    private static function row(stdClass $row): array
    {
        $proof = json_decode((string) $row->proof, true);

        return [
            'id' => (int) $row->id,
            'path' => (string) $row->path,
            'title' => (string) $row->title,
            'mime' => (string) $row->mime,
            'sha256' => trim((string) $row->sha256),
            'width' => $row->width === null ? null : (int) $row->width,
            'height' => $row->height === null ? null : (int) $row->height,
            'files' => (int) $row->files,
            'bytes' => (int) $row->bytes,
            'until' => (string) $row->until,
            'days' => max(0, (int) $row->days),
            'rested_at' => date(DATE_ATOM, (int) strtotime((string) $row->rested_at)),
            'called_by' => $row->called === null ? null : (string) $row->called,
            'has_row' => $row->row !== null,
            'proof' => is_array($proof) ? $proof : [],
        ];
    }

    /** @return array<string, mixed> what was looked at, and when: without all of it, nothing is safe */
    private function looked(): array
    {
        $looked = (new Proofs($this->site->id))->looked();
        $at = static fn (?int $time): ?string => $time === null ? null : date(DATE_ATOM, $time);

        return [
            'read' => $at($looked->read),
            'unread' => $looked->unread,
            'knows_code' => $looked->knowsCode,
            'code_files' => $looked->codeFiles,
            'left_code' => $looked->leftCode,
            'why_code' => $looked->whyCode,
            'tables' => $looked->tables,
            'files' => $looked->files,
            'left' => $looked->left,
            'why' => $looked->why,
            'surveyed' => $at($looked->surveyed),
            'log_from' => $at($looked->logFrom),
            'log_until' => $at($looked->logUntil),
            'log_doubt' => $looked->logDoubt,
        ];
    }

    /** @return array{items: int, files: int, bytes: int} */
    private static function weighed(mixed $row): array
    {
        return [
            'items' => self::number($row, 'items'),
            'files' => self::number($row, 'files'),
            'bytes' => self::number($row, 'bytes'),
        ];
    }

    private static function number(mixed $row, string $column): int
    {
        return $row instanceof stdClass ? (int) $row->{$column} : 0;
    }
}
