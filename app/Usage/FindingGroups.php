<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\MediaFile;
use App\Models\Site;
use App\Support\Sql;
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
        return (int) DB::table('media_references as m')
            ->leftJoin('addresses as a', 'a.id', '=', 'm.address_id')
            ->where('m.site_id', $this->site->id)
            ->where('m.outcome', $this->kind->value)
            ->distinct()
            ->count(DB::raw('coalesce(a.asked, m.value)'));
    }

    /** @return list<array<string, mixed>> those met at most places first */
    public function page(int $offset, int $limit): array
    {
        $rows = DB::select(
            <<<'SQL'
            select coalesce(a.asked, m.value) as asked, min(m.value) as value, count(*) as refs,
                count(distinct m.record_id) as records,
                count(distinct m.record_id) filter (where r.is_page and r.state = 0) as pages,
                min(a.path) as path, (array_agg(a.candidates::text))[1] as candidates,
                min(coalesce(m.media_item_id, a.media_item_id)) as item, min(r.id) as record,
                bool_and(m.names = 'address') as by_address
            from media_references m join records r on r.id = m.record_id left join addresses a on a.id = m.address_id
            where m.site_id = ? and m.outcome = ? group by coalesce(a.asked, m.value)
            order by count(*) desc, coalesce(a.asked, m.value) limit ? offset ?
            SQL
            ,
            [$this->site->id, $this->kind->value, $limit, $offset],
        );
        $groups = $paths = [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $list = json_decode((string) $row->candidates, true);
            $candidates = is_array($list) ? array_values(array_filter($list, is_string(...))) : [];
            $cure = $this->cures->of(
                new Finding($this->kind, (string) $row->asked, $row->path, $candidates, $row->item),
            );
            $groups[] = [$row, $cure];
            array_push($paths, ...array_slice($cure->candidates, 0, self::CANDIDATES));
        }
        $files = MediaFile::query()
            ->where('site_id', $this->site->id)
            ->whereRaw('path = any(cast(? as text[]))', [Sql::texts(array_values(array_unique($paths)))])
            ->get()
            ->keyBy('path');

        return array_map(
            fn (array $group): array => self::said($this->kind, $group[0], $group[1], $files->all()),
            $groups,
        );
    }

    /**
     * @param  array<array-key, MediaFile>  $files
     * @return array<string, mixed>
     */
    private static function said(OutcomeKind $kind, stdClass $row, Cure $cure, array $files): array
    {
        $file = static function (string $path) use ($files): array {
            $own = $files[$path] ?? null;

            return [
                'path' => $path,
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
            'drawn' => $cure->isDrawn,
            'cure' => $cure->path === null ? null : $file($cure->path),
            'candidates' => array_map($file, array_slice($cure->candidates, 0, self::CANDIDATES)),
        ];
    }
}
