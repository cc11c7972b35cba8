<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\MediaFile;
use App\Models\Record;
use App\Models\Site;
use App\Support\Sql;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Addresses\Outcome;
use Ylema\Addresses\OutcomeKind;
use Ylema\Plan\Finding;
use Ylema\Repair\Cure;
use Ylema\Repair\Cures;

/** The findings of one family by what they ask for: a missing file with its forty places is one. */
final readonly class FindingGroups
{
    /** Candidates that a person looks at before deciding. */
    private const CANDIDATES = 12;

    public function __construct(private Site $site, private OutcomeKind $kind, private Cures $cures)
    {
    }

    public function count(): int
    {
        return (int) DB::table('findings')
            ->where('site_id', $this->site->id)
            ->where('outcome', $this->kind->value)
            ->distinct()
            ->count(DB::raw('(asked, leads)'));
    }

    /** @return list<array<string, mixed>> those met at most places first */
    public function page(int $offset, int $limit): array
    {
        $rows = DB::select(
            <<<'SQL'
            select g.*, h.back_at from (
                select m.asked, m.leads, min(m.value) as value, count(*) as refs,
                    count(distinct m.record_id) as records,
                    count(distinct m.record_id) filter (where r.is_page and r.state = 0) as pages,
                    min(m.path) as path, (array_agg(m.candidates::text))[1] as candidates,
                    min(m.item) as item, min(r.id) as record, bool_and(m.by_address) as by_address
                from findings m join records r on r.id = m.record_id
                where m.site_id = ? and m.outcome = ? group by m.asked, m.leads
                order by count(*) desc, m.asked, m.leads limit ? offset ?
            ) as g left join finding_history h on h.site_id = ? and h.cause = ? and h.asked_hash = md5(g.asked)
            order by g.refs desc, g.asked, g.leads
            SQL
            ,
            [$this->site->id, $this->kind->value, $limit, $offset, $this->site->id, $this->kind->value],
        );
        $groups = $paths = [];
        $items = $this->kind === OutcomeKind::MissingItem ? $this->itemsLike(array_column($rows, 'asked')) : [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $list = $items[(string) $row->asked] ?? json_decode((string) $row->candidates, true);
            $candidates = is_array($list) ? array_values(array_filter($list, is_string(...))) : [];
            $cure = $this->cures->of(
                new Finding($this->kind, (string) $row->asked, $row->path, $candidates, $row->item),
            );
            $groups[] = [$row, $cure];
            array_push($paths, ...array_slice($cure->candidates, 0, self::CANDIDATES));
        }
        $paths = Sql::texts(array_values(array_unique($paths)));
        $files = MediaFile::query()
            ->where('site_id', $this->site->id)
            ->whereRaw('path = any(cast(? as text[]))', [$paths])
            ->get()
            ->keyBy('path');
        $pages = Record::query()
            ->where('site_id', $this->site->id)
            ->where('is_page', true)
            ->whereRaw("rtrim(address, '/') = any(cast(? as text[]))", [$paths])
            ->get()
            ->keyBy(static fn (Record $page): string => trim((string) $page->address, '/'));

        return array_map(
            fn (array $group): array => self::said($this->kind, $group[0], $group[1], $files->all(), $pages->all()),
            $groups,
        );
    }

    /**
     * Items that an id may mean whose row is gone: those that have its path, its name or its title.
     *
     * @param  array<mixed>  $ids
     * @return array<array-key, list<string>> id → paths of originals
     */
    private function itemsLike(array $ids): array
    {
        $like = [];
        $rows = DB::select(
            <<<'SQL'
            select g.source_id, i.path from former_items g join media_items i on i.site_id = g.site_id
                and i.source_id is not null and (i.path = g.path
                    or regexp_replace(i.path, '^.*/', '') = regexp_replace(g.path, '^.*/', '')
                    or g.title <> '' and i.title = g.title)
            where g.site_id = ? and g.source_id = any(cast(? as text[]))
            order by g.source_id, i.path <> g.path, i.path
            SQL
            ,
            [$this->site->id, Sql::texts(array_values(array_filter($ids, is_string(...))))],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $like[(string) $row->source_id][] = (string) $row->path;
        }

        return $like;
    }

    /**
     * @param  array<array-key, MediaFile>  $files
     * @param  array<array-key, Record>  $pages
     * @return array<string, mixed>
     */
    private static function said(OutcomeKind $kind, stdClass $row, Cure $cure, array $files, array $pages): array
    {
        $file = static function (string $path) use ($files, $pages, $row): array {
            $own = $row->leads === true ? null : $files[$path] ?? null;
            $page = $row->leads === true ? $pages[$path] ?? null : null;

            return [
                'path' => $path,
                'title' => $page?->title,
                'file_id' => $own?->id,
                'sha256' => $own === null ? null : trim($own->sha256),
                'mime' => $own?->mime,
                'width' => $own?->width,
                'height' => $own?->height,
            ];
        };

        return [
            'asked' => $row->asked,
            'value' => $row->value,
            'sentence' => (new Outcome($kind, $row->path, $cure->candidates, (string) $row->asked))->sentence(),
            'references' => (int) $row->refs,
            'records' => (int) $row->records,
            'pages' => (int) $row->pages,
            'record' => (int) $row->record,
            'sure' => $cure->isSure,
            'by_address' => $row->by_address === true,
            'choosable' => $row->by_address === true || $kind === OutcomeKind::MissingItem,
            'drawn' => $cure->isDrawn,
            'leads' => $row->leads === true,
            'back_at' => $row->back_at === null ? null : Carbon::parse((string) $row->back_at)->toIso8601String(),
            'cure' => $cure->path === null ? null : $file($cure->path),
            'candidates' => array_map($file, array_slice($cure->candidates, 0, self::CANDIDATES)),
        ];
    }
}
