<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\LetStand;
use App\Models\Site;
use App\Models\User;
use App\Support\Sql;
use Generator;
use Illuminate\Support\Facades\DB;
use Ylema\Addresses\OutcomeKind;

/** What came of following each reference and link, as it stands on it; and what somebody decided about it. */
final readonly class Findings
{
    private const BATCH = 1000;

    public function __construct(private int $siteId)
    {
    }

    /**
     * Whatever a reference names: an address, an id, a key. A finding that was let stand is none as long as its cause
     * is the same.
     *
     * @param  string|null  $asked only those that ask for this
     */
    public function settle(?string $asked = null): void
    {
        $only = $asked === null ? '' : 'and coalesce(a.asked, m.value) = ?';
        DB::update(
            <<<SQL
            update media_references r set outcome = v.outcome from (
                select q.id, case when s.id is null then q.outcome else 'let-stand' end as outcome from (
                    select m.id, coalesce(a.asked, m.value) as asked, case
                        -- Nobody loses anything by words that name no file.
                        when m."fetch" = 'never' and a.outcome <> 'found' then 'elsewhere'
                        -- What the public site and other hosts answered when they were last asked.
                        when a.outcome = 'found' and m."fetch" in ('always', 'on-condition') and v.status >= 400
                            then 'not-served'
                        when a.outcome = 'foreign-host' and (v.status >= 400 or v.status = 0 or g.reason is not null)
                            then 'foreign-gone'
                        when a.outcome = 'foreign-host' and v.known_as <> v.fingerprint then 'changed-abroad'
                        when a.outcome = 'foreign-host'
                            and t.hosts->>(substring(a.url from '^[a-z]+://([^/:?#]+)')) = 'allow' then 'allowed-host'
                        when m.names = 'owner' then 'found'
                        when m.names = 'address' then a.outcome
                        when m.names = 'record' then case when m.target_record_id is null then 'missing-record'
                            else 'found' end
                        when m.media_item_id is null then 'missing-item'
                        when f.id is null then 'missing-file'
                        when f.size = 0 then 'empty-file'
                        else 'found' end as outcome
                    from media_references m left join addresses a on a.id = m.address_id
                    join sites t on t.id = m.site_id
                    left join visits v on a.outcome in ('found', 'foreign-host') and v.site_id = a.site_id
                        and v.url_hash = a.url_hash
                    left join foreign_files g on a.outcome = 'foreign-host' and g.site_id = a.site_id
                        and g.url_hash = a.url_hash
                    left join files f on m.names = 'media-item' and f.media_item_id = m.media_item_id
                        and f.is_original
                    where m.site_id = ? $only
                ) as q left join let_stand s on s.site_id = ? and s.cause = q.outcome and s.asked = q.asked
            ) as v where r.id = v.id and r.outcome is distinct from v.outcome
            SQL
            ,
            $asked === null ? [$this->siteId, $this->siteId] : [$this->siteId, $asked, $this->siteId],
        );
        $only = $asked === null ? '' : 'and a.asked = ?';
        DB::update(
            <<<SQL
            update links r set outcome = v.outcome from (
                select l.id, case when s.id is null then a.outcome else 'let-stand' end as outcome
                from links l join addresses a on a.id = l.address_id
                left join let_stand s on s.site_id = l.site_id and s.cause = a.outcome and s.asked = a.asked
                where l.site_id = ? $only
            ) as v where r.id = v.id and r.outcome is distinct from v.outcome
            SQL
            ,
            $asked === null ? [$this->siteId] : [$this->siteId, $asked],
        );
    }

    /** Notes down which findings there are, which are gone, and which were gone and are back. */
    public function remember(): void
    {
        $kinds = Sql::texts(array_column(OutcomeKind::findings(), 'value'));
        DB::statement(
            <<<'SQL'
            create temporary table found_now on commit drop as
            select outcome as cause, md5(asked) as asked_hash from findings
            where site_id = ? and outcome = any(cast(? as text[])) group by 1, 2
            SQL
            ,
            [$this->siteId, $kinds],
        );
        DB::update(
            <<<'SQL'
            update finding_history h set gone_at = now(), back_at = null where h.site_id = ? and h.gone_at is null
                and not exists (select 1 from found_now n where n.cause = h.cause and n.asked_hash = h.asked_hash)
            SQL
            ,
            [$this->siteId],
        );
        DB::insert(
            <<<'SQL'
            insert into finding_history (site_id, cause, asked_hash)
            select cast(? as bigint), cause, asked_hash from found_now
            on conflict (site_id, cause, asked_hash) do update set back_at = now(), gone_at = null
            where finding_history.gone_at is not null
            SQL
            ,
            [$this->siteId],
        );
        DB::statement('drop table found_now');
    }

    /** @return array{record: int, field: string, start: int, length: int, line: int}|null one of the places */
    public static function one(Site $site, OutcomeKind $kind, string $asked, bool $leads): ?array
    {
        $row = DB::table('findings as m')
            ->join('records as r', 'r.id', '=', 'm.record_id')
            ->where('m.site_id', $site->id)
            ->where('m.outcome', $kind->value)
            ->where('m.asked', $asked)
            ->where('m.leads', $leads)
            ->orderByRaw('r.is_page and r.state = 0 desc, m.id')
            ->first(['m.record_id', 'm.field', 'm.start', 'm.length', 'm.line']);

        return $row === null
            ? null
            : [
                'record' => (int) $row->record_id,
                'field' => (string) $row->field,
                'start' => (int) $row->start,
                'length' => (int) $row->length,
                'line' => (int) $row->line,
            ];
    }

    /**
     * Findings of some kinds one by one, for a pipe.
     *
     * @param  list<OutcomeKind>  $kinds
     * @return Generator<array<string, mixed>>
     */
    public static function each(Site $site, array $kinds): Generator
    {
        foreach ([false, true] as $leads) {
            $after = 0;
            do {
                $rows = DB::table('findings as m')
                    ->join('records as r', 'r.id', '=', 'm.record_id')
                    ->where('m.site_id', $site->id)
                    ->where('m.leads', $leads)
                    ->whereIn('m.outcome', array_column($kinds, 'value'))
                    ->where('m.id', '>', $after)
                    ->orderBy('m.id')
                    ->limit(self::BATCH)
                    ->get(['m.*', 'r.kind', 'r.key', 'r.address']);
                foreach ($rows as $row) {
                    $after = (int) $row->id;
                    yield [
                        'family' => $row->outcome,
                        'kind' => $row->kind,
                        'key' => $row->key,
                        'address' => $row->address,
                        'field' => $row->field,
                        'line' => (int) $row->line,
                        'value' => $row->value,
                        'means' => $row->path,
                        'sure' => $row->sure === true,
                    ];
                }
            } while ($rows->count() === self::BATCH);
        }
    }

    public static function letStand(Site $site, OutcomeKind $kind, string $asked, string $reason, ?User $by): LetStand
    {
        return DB::transaction(function () use ($site, $kind, $asked, $reason, $by): LetStand {
            $decision = LetStand::query()->updateOrCreate(
                ['site_id' => $site->id, 'cause' => $kind->value, 'asked' => $asked],
                ['reason' => $reason, 'decided_by' => $by?->id],
            );
            (new self($site->id))->decided($asked);

            return $decision;
        });
    }

    public static function takeBack(LetStand $decision): void
    {
        DB::transaction(function () use ($decision): void {
            $decision->delete();
            (new self($decision->site_id))->decided($decision->asked);
        });
    }

    /** What is counted of the items that it concerns is counted again. */
    private function decided(string $asked): void
    {
        $this->settle($asked);
        $broken = UsageIndex::broken();
        DB::update(
            <<<SQL
            update media_items i set broken = (select count(*) from media_references m where m.media_item_id = i.id
                and m.outcome in ($broken))
            where i.id in (select m.media_item_id from media_references m left join addresses a on a.id = m.address_id
                where m.site_id = ? and coalesce(a.asked, m.value) = ?)
            SQL
            ,
            [$this->siteId, $asked],
        );
    }
}
