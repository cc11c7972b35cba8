<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\ChangeState;
use App\Models\Site;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Addresses\OutcomeKind;

/**
 * The counts that the stages and the desk show, each from one statement.
 *
 * @phpstan-type Family array{
 *     cause: string,
 *     title: string,
 *     sentence: string,
 *     broken: bool,
 *     references: int,
 *     sure: int,
 *     records: int,
 *     pages: int,
 *     live: int,
 *     files: int,
 *     sample: string|null,
 * }
 */
final class SiteFigures
{
    /** @return array<string, int> stage → open count */
    public function stages(Site $site): array
    {
        return [
            'media' => $site->mediaItems()->count(),
            'places' => $site
                ->records()
                ->whereIn('kind', ['page', 'post', 'page-part', 'banner', 'slot'])
                ->count(),
            'repairs' => array_sum(array_column($this->families($site), 'references')),
            'resting' => $site->mediaItems()->where('verdict', 'safe')->count() +
                DB::table('resting_files')->where('site_id', $site->id)->whereNotNull('called_at')->count(),
            'changes' => $site->changes()->count(),
        ];
    }

    /**
     * Findings with one cause, worst for visitors first.
     *
     * @return list<Family>
     */
    public function families(Site $site): array
    {
        $rows = DB::select(
            <<<'SQL'
            select m.outcome as cause, count(*) as refs, count(distinct m.record_id) as records,
                count(distinct (coalesce(m.address_id, -1), case when m.address_id is null then m.value end)) as files,
                count(*) filter (where m.sure and m.by_address) as sure,
                count(distinct r.id) filter (where r.is_page and r.state = 0) as pages,
                count(*) filter (where r.is_page and r.state = 0) as live, min(m.value) as sample
            from findings m join records r on r.id = m.record_id
            where m.site_id = ? and m.outcome = any(cast(? as text[])) group by m.outcome
            SQL
            ,
            [$site->id, Sql::texts(array_column(OutcomeKind::findings(), 'value'))],
        );
        $families = [];
        foreach ($rows as $row) {
            $kind = OutcomeKind::from((string) $row->cause);
            $families[$kind->value] = [
                'cause' => $kind->value,
                'title' => $kind->title(),
                'sentence' => $kind->cause(),
                'broken' => $kind->isBroken(),
                'references' => (int) $row->refs,
                'sure' => (int) $row->sure,
                'records' => (int) $row->records,
                'pages' => (int) $row->pages,
                'live' => (int) $row->live,
                'files' => (int) $row->files,
                'sample' => $row->sample,
            ];
        }

        // In the catalogue's order, which is worst for visitors first.
        return array_values(
            array_filter(
                array_map(
                    static fn (OutcomeKind $kind): ?array => $families[$kind->value] ?? null,
                    OutcomeKind::findings(),
                ),
            ),
        );
    }

    /** @return array<string, mixed> */
    public function desk(Site $site): array
    {
        $families = $this->families($site);
        $standing = $site
            ->mediaItems()
            ->toBase()
            ->selectRaw('standing, count(*) as count')
            ->groupBy('standing')
            ->pluck('count', 'standing');
        $weights = DB::selectOne(
            'select count(*) as files, coalesce(sum(size), 0) as bytes, coalesce(sum(size) filter (where not '
                .'is_original), 0) as renditions from files where site_id = ?',
            [$site->id],
        );
        $idle = DB::selectOne(
            'select count(*) as files, coalesce(sum(f.size), 0) as bytes, count(distinct m.id) as items from files f '
                ."join media_items m on m.id = f.media_item_id where m.site_id = ? and m.standing = 'idle'",
            [$site->id],
        );
        $resting = DB::selectOne(
            'select count(*) filter (where called_at is not null) as called, min(called_by) as called_by, '
                .'count(*) filter (where called_at is null and until <= current_date) as over, '
                .'coalesce(sum(size) filter (where called_at is null and until <= current_date), 0) as over_bytes '
                .'from resting_files where site_id = ?',
            [$site->id],
        );
        $safe = DB::selectOne(
            'select count(f.id) as files, coalesce(sum(f.size), 0) as bytes, count(distinct m.id) as items '
                .'from media_items m left join files f on f.media_item_id = m.id '
                ."where m.site_id = ? and m.verdict = 'safe'",
            [$site->id],
        );
        $broken = UsageIndex::broken();
        $loose = DB::selectOne(
            'select count(*) as refs, count(distinct m.record_id) as records from findings m '
                .'join records r on r.id = m.record_id where m.site_id = ? and r.state = 0 and r.is_page and '
                ."m.outcome in ($broken)",
            [$site->id],
        );
        $large = DB::selectOne(
            'select count(*) as items, coalesce(sum(f.size), 0) as bytes from files f join media_items m on m.id = '
                .'f.media_item_id where m.site_id = ? and f.is_original and f.width > 2600 and m.uses > 0',
            [$site->id],
        );
        $copies = DB::selectOne(
            'select coalesce(sum(n), 0) as items, count(*) as groups from (select count(*) as n from files where '
                .'site_id = ? and is_original group by sha256 having count(*) > 1) as g',
            [$site->id],
        );
        $expired = $site->records()->where('kind', 'banner')->where('state', 2)->count();

        return [
            'broken' => [
                'references' => self::int($loose, 'refs'),
                'pages' => self::int($loose, 'records'),
                'families' => $families,
            ],
            'standing' => $standing,
            'idle' => [
                'items' => self::int($idle, 'items'),
                'files' => self::int($idle, 'files'),
                'bytes' => self::int($idle, 'bytes'),
            ],
            'safe' => [
                'items' => self::int($safe, 'items'),
                'files' => self::int($safe, 'files'),
                'bytes' => self::int($safe, 'bytes'),
            ],
            'resting' => [
                'called' => self::int($resting, 'called'),
                'called_by' => $resting instanceof stdClass ? (string) $resting->called_by : '',
                'over' => self::int($resting, 'over'),
                'over_bytes' => self::int($resting, 'over_bytes'),
                'damaged' => DB::table('bags')
                    ->where('site_id', $site->id)
                    ->where('state', 'sealed')
                    ->whereRaw("trouble::text <> '[]'")
                    ->count(),
            ],
            'left_behind' => $this->leftBehind($site),
            'mentioned' => $site->mediaItems()->where('mentions', '>', 0)->where('standing', 'idle')->count(),
            'not_searched' => count(Mentioned::notSearched($site)),
            'place_questions' => (new PlaceQuestions($site))->open(),
            'large' => ['items' => self::int($large, 'items'), 'bytes' => self::int($large, 'bytes')],
            'copies' => ['items' => self::int($copies, 'items'), 'groups' => self::int($copies, 'groups')],
            'expired_banners' => $expired,
            'numbers' => [
                'items' => $site->mediaItems()->count(),
                'files' => self::int($weights, 'files'),
                'bytes' => self::int($weights, 'bytes'),
                'rendition_bytes' => self::int($weights, 'renditions'),
                'records' => $site->records()->count(),
                'pages' => $site->records()->where('is_page', true)->where('state', 0)->count(),
                'references' => (int) DB::table('media_references')
                    ->where('site_id', $site->id)
                    ->whereNotIn('names', ['record', Carrying::OWNER])
                    ->count(),
            ],
            'unread' => $site->records()->whereRaw('jsonb_array_length(problems) > 0')->count(),
            'stale_changes' => self::unsettled($site, 'stale'),
            'unkept_changes' => self::unsettled($site, 'unkept'),
        ];
    }

    /**
     * Changes at rest of which a visitor does not meet what they said.
     *
     * @param  'stale'|'unkept'  $what pages that a cache keeps, or old addresses that lead nowhere
     * @return list<array<string, int|string>> with the count by that word
     */
    private static function unsettled(Site $site, string $what): array
    {
        return array_values(DB::table('changes')
            ->where('site_id', $site->id)
            ->whereIn('state', ChangeState::atRest())
            ->whereRaw("(verification->>'$what')::int > 0")
            ->orderByDesc('id')
            ->limit(20)
            ->get(['id', 'title', DB::raw("(verification->>'$what')::int as count")])
            ->map(static fn (stdClass $row): array => [
                'id' => (int) $row->id, 'title' => (string) $row->title, $what => (int) $row->count,
            ])
            ->all());
    }

    /** @return array{items: int, records: int, title: string} what records that are gone left behind */
    private function leftBehind(Site $site): array
    {
        $row = DB::selectOne(
            'select count(*) as items, count(distinct (kind, title)) as records, min(title) as title from left_behind '
                .'where site_id = ?',
            [$site->id],
        );

        return [
            'items' => self::int($row, 'items'),
            'records' => self::int($row, 'records'),
            'title' => $row instanceof stdClass ? (string) $row->title : '',
        ];
    }

    private static function int(mixed $row, string $column): int
    {
        return $row instanceof stdClass ? (int) $row->{$column} : 0;
    }
}
