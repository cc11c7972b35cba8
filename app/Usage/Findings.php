<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\LetStand;
use App\Models\Site;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use Ylema\Addresses\OutcomeKind;

/** What came of following each reference, as it stands on the reference; and what somebody decided about it. */
final readonly class Findings
{
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
                        when m.names = 'address' then a.outcome
                        when m.names = 'record' then case when m.target_record_id is null then 'missing-record'
                            else 'found' end
                        when m.media_item_id is null then 'missing-item'
                        when f.id is null then 'missing-file'
                        when f.size = 0 then 'empty-file'
                        else 'found' end as outcome
                    from media_references m left join addresses a on a.id = m.address_id
                    left join files f on m.names = 'media-item' and f.media_item_id = m.media_item_id
                        and f.is_original
                    where m.site_id = ? $only
                ) as q left join let_stand s on s.site_id = ? and s.cause = q.outcome and s.asked = q.asked
            ) as v where r.id = v.id and r.outcome is distinct from v.outcome
            SQL
            ,
            $asked === null ? [$this->siteId, $this->siteId] : [$this->siteId, $asked, $this->siteId],
        );
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
