<?php

declare(strict_types=1);

namespace App\Archive;

use App\Models\Bag;
use App\Models\Site;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Imaging\LookIndex;

/** The bags of a site, and what lies in them. */
final readonly class BagList
{
    public function __construct(private Site $site)
    {
    }

    /** @return list<array<string, mixed>> the latest first */
    public function bags(): array
    {
        return array_values(
            $this->site
                ->bags()
                ->orderByDesc('id')
                ->limit(500)
                ->get()
                ->map(
                    static fn (Bag $bag): array => [
                        'name' => $bag->name,
                        'state' => $bag->state,
                        'files' => $bag->files,
                        'weight' => $bag->weight,
                        'made_at' => $bag->made_at->toIso8601String(),
                        'verified_at' => $bag->verified_at?->toIso8601String(),
                        'trouble' => $bag->trouble,
                    ],
                )
                ->all(),
        );
    }

    /**
     * @param  int|null  $print of a picture that they look like
     * @return array{total: int, rows: list<array<string, mixed>>}
     */
    public function files(string $q, string $bag, int $offset, int $limit, ?int $print = null): array
    {
        $like = '%'.addcslashes($q, '%_\\').'%';
        $query = DB::table('bag_files as f')
            ->join('bags as b', 'b.id', '=', 'f.bag_id')
            ->where('f.site_id', $this->site->id)
            ->where('b.state', Bag::SEALED)
            ->when($bag !== '', fn ($w) => $w->where('b.name', $bag))
            ->when(
                $print !== null,
                fn ($w) => $w->whereExists(
                    fn ($l) => $l
                        ->from('looks as l')
                        ->whereColumn('l.sha256', 'f.sha256')
                        ->where('l.plain', false)
                        ->whereRaw('bit_count((l.print # cast(? as bigint))::bit(64)) <= '.LookIndex::DISTANCE, [$print]),
                ),
            )
            ->when(
                $q !== '',
                fn ($w) => $w->whereAny(['f.path', 'f.title'], 'ilike', $like),
            );
        $rows = (clone $query)
            ->orderByDesc('f.bag_id')
            ->orderByRaw('f.item, f.path <> f.item, f.path')
            ->offset($offset)
            ->limit($limit)
            ->get(['f.*', 'b.name as bag']);

        return [
            'total' => $query->count(),
            'rows' => array_values(
                $rows
                    ->map(
                        static fn (stdClass $row): array => [
                            'id' => (int) $row->id,
                            'bag' => (string) $row->bag,
                            'path' => (string) $row->path,
                            'title' => (string) $row->title,
                            'mime' => (string) $row->mime,
                            'sha256' => trim((string) $row->sha256),
                            'width' => $row->width === null ? null : (int) $row->width,
                            'height' => $row->height === null ? null : (int) $row->height,
                            'size' => (int) $row->size,
                            'is_original' => $row->path === $row->item,
                        ],
                    )
                    ->all(),
            ),
        ];
    }
}
