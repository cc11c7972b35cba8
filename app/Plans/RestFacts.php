<?php

declare(strict_types=1);

namespace App\Plans;

use App\Models\Bag;
use App\Models\MediaFile;
use App\Models\MediaItem;
use App\Models\Site;
use App\Retire\Keeping;
use App\Retire\Proofs;
use App\Sites\OpenSite;
use App\Support\Sql;
use App\Usage\MediaFilter;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Query\Builder as QueryBuilder;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Imaging\Size;
use Ylema\Plan\Idle;
use Ylema\Plan\IdleFile;
use Ylema\Plan\IdleQuestion;
use Ylema\Plan\Resting;
use Ylema\Plan\RestingQuestion;
use Ylema\Plan\Steps\Belongings;
use Ylema\Retire\ProofSheet;
use Ylema\Retire\ProofSource;
use Ylema\Retire\Verdict;
use Ylema\Sites\FileState;
use Ylema\Sites\MediaRow;

/** What may rest and what rests, in batches. */
final readonly class RestFacts
{
    /** Uses that a proof sheet names; a bag says who named a file, and need not list an archive. */
    private const USES = 200;

    private const BATCH = 250;

    private Site $model;

    private Keeping $keeping;

    public function __construct(private OpenSite $site)
    {
        $this->model = Site::query()->findOrFail($site->id);
        $this->keeping = Keeping::of($this->model);
    }

    /** Its day and a number; two sites may share a disk. */
    public function newBag(): string
    {
        $day = "{$this->model->slug}-".now()->toDateString();
        for (
            $n = 1;
            DB::table('bags')
                ->where('name', "$day-$n")
                ->exists();
            $n++
        ) {
        }

        return "$day-$n";
    }

    /** @return list<int>|null rising */
    public function widths(): ?array
    {
        $widths = $this->keeping->widths;
        if ($widths !== null) {
            sort($widths);
        }

        return $widths;
    }

    public function restsUntil(): string
    {
        return now()->addDays($this->keeping->days)->toDateString();
    }

    /** @return iterable<list<Idle>> */
    public function idle(IdleQuestion $question): iterable
    {
        return $question->isOfRenditions() ? $this->renditions($question) : $this->items($question);
    }

    /** @return iterable<list<Resting>> */
    public function resting(RestingQuestion $question): iterable
    {
        return $question->bagged === null ? $this->atRest($question) : $this->inBags($question->bagged);
    }

    /**
     * @param  list<int>  $files
     * @return iterable<list<Resting>>
     */
    private function inBags(array $files): iterable
    {
        $after = ['', false, '', 0];
        do {
            $rows = DB::table('bag_files as f')
                ->join('bags as b', 'b.id', '=', 'f.bag_id')
                ->where('f.site_id', $this->site->id)
                ->where('b.state', Bag::SEALED)
                ->select('f.*', 'b.name as bag')
                ->where(
                    fn ($w) => $w
                        ->whereRaw('f.id = any(cast(? as bigint[]))', [Sql::ids($files)])
                        ->orWhereRaw(
                            '(f.bag_id, f.item) in (select o.bag_id, o.path from bag_files o where o.path = o.item '
                                .'and o.id = any(cast(? as bigint[])))',
                            [Sql::ids($files)],
                        ),
                );
            $batch = self::page($rows, $after);
            if ($batch !== []) {
                yield $batch;
            }
        } while (count($batch) === self::BATCH);
    }

    /**
     * The next ones, those of one item together, its original first.
     *
     * @param  array{string, bool, string, int}  $after
     * @return list<Resting>
     */
    private static function page(QueryBuilder $query, array &$after): array
    {
        $rows = $query
            ->whereRaw('(f.item, f.path <> f.item, f.path, f.id) > (?, cast(? as boolean), ?, ?)', [
                $after[0],
                $after[1] ? 'true' : 'false',
                $after[2],
                $after[3],
            ])
            ->orderByRaw('f.item, f.path <> f.item, f.path, f.id')
            ->limit(self::BATCH)
            ->get();
        $batch = [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $batch[] = self::asResting($row);
            $after = [(string) $row->item, $row->path !== $row->item, (string) $row->path, (int) $row->id];
        }

        return $batch;
    }

    /** @return iterable<list<Resting>> */
    private function atRest(RestingQuestion $question): iterable
    {
        $after = ['', false, '', 0];
        do {
            $rows = DB::table('resting_files as f')
                ->where('f.site_id', $this->site->id)
                ->select('f.*')
                ->when(
                    $question->files !== null,
                    fn ($q) => $q->where(
                        fn ($w) => $w
                            ->whereRaw('f.id = any(cast(? as bigint[]))', [Sql::ids($question->files ?? [])])
                            // What was derived from an original comes with it.
                            ->orWhereRaw(
                                'f.item in (select o.path from resting_files o where o.site_id = f.site_id and '
                                    .'o.path = o.item and o.id = any(cast(? as bigint[])))',
                                [Sql::ids($question->files ?? [])],
                            ),
                    ),
                )
                ->when(
                    $question->plan !== null,
                    fn ($q) => $q->whereExists(
                        fn ($s) => $s
                            ->from('plan_steps as s')
                            ->where('s.plan_id', $question->plan)
                            ->where('s.kind', 'rest-file')
                            ->whereColumn('s.path', 'f.path'),
                    ),
                )
                ->when($question->called, fn ($q) => $q->whereNotNull('f.called_at'))
                ->when(
                    $question->over !== null,
                    fn ($q) => $q->whereNull('f.called_at')->where('f.until', '<=', $question->over),
                );
            $batch = self::page($rows, $after);
            if ($batch !== []) {
                yield $batch;
            }
        } while (count($batch) === self::BATCH);
    }

    private static function asResting(stdClass $row): Resting
    {
        $json = static function (?string $text): array {
            $data = json_decode((string) $text, true);

            return is_array($data) ? $data : [];
        };

        return new Resting(
            (int) $row->id,
            (string) $row->path,
            FileState::fromArray($json($row->file)),
            (string) $row->until,
            Belongings::fromArray([
                'item' => $row->item,
                'title' => $row->title,
                'mime' => $row->mime,
                'width' => $row->width,
                'height' => $row->height,
                'row' => $row->row === null ? null : $json($row->row),
                'proof' => $json($row->proof),
            ]),
            isset($row->bag) ? (string) $row->bag : null,
        );
    }

    /** @return iterable<list<Idle>> */
    private function items(IdleQuestion $question): iterable
    {
        $after = 0;
        do {
            $ids = $this->asked($question)
                ->where('media_items.id', '>', $after)
                ->orderBy('media_items.id')
                ->limit(self::BATCH)
                ->pluck('media_items.id')
                ->map(static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0)
                ->all();
            $ids = array_values($ids);
            $after = $ids === [] ? 0 : max($ids);
            if ($ids !== []) {
                yield $this->batch($ids, null);
            }
        } while (count($ids) === self::BATCH);
    }

    /** @return Builder<MediaItem> */
    private function asked(IdleQuestion $question): Builder
    {
        $query = (new MediaFilter($this->model, $question->marks))->query();
        if ($question->items !== null) {
            return $query->whereRaw('media_items.id = any(cast(? as bigint[]))', [Sql::ids($question->items)]);
        }

        // Of what was not named one by one, nobody wants a list of what is needed.
        return $query->where('media_items.verdict', '<>', Verdict::Needed->value);
    }

    /** @return iterable<list<Idle>> */
    private function renditions(IdleQuestion $question): iterable
    {
        $after = 0;
        do {
            $rows = MediaFile::query()
                ->where('site_id', $this->site->id)
                ->where('is_original', false)
                ->whereNotNull('media_item_id')
                ->where('id', '>', $after)
                ->when(
                    $question->files !== null,
                    fn ($q) => $q->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids($question->files ?? [])]),
                )
                ->when(
                    $question->size !== null,
                    fn ($q) => $q
                        ->where('width', $question->size[0] ?? 0)
                        ->when(
                            ($question->size[1] ?? 0) > 0,
                            fn ($w) => $w->where('height', $question->size[1] ?? 0),
                            // Of the original's own shape.
                            fn ($w) => $w->whereRaw(
                                'exists (select 1 from files o where o.media_item_id = files.media_item_id and '
                                    .'o.is_original and abs(ln((files.width::float / files.height) / '
                                    .'(o.width::float / o.height))) <= 0.03)',
                            ),
                        )
                        ->where('verdict', '<>', Verdict::Needed->value),
                )
                ->orderBy('id')
                ->limit(self::BATCH)
                ->get(['id', 'media_item_id']);
            $files = array_values($rows->map(static fn (MediaFile $file): int => $file->id)->all());
            $after = $files === [] ? 0 : max($files);
            $items = array_values(
                array_unique($rows->map(static fn (MediaFile $file): int => (int) $file->media_item_id)->all()),
            );
            if ($items !== []) {
                yield $this->batch($items, array_fill_keys($files, true));
            }
        } while (count($files) === self::BATCH);
    }

    /**
     * @param  non-empty-list<int>  $ids
     * @param  array<int, true>|null  $only these files, each judged by itself; null for whole items
     * @return list<Idle>
     */
    private function batch(array $ids, ?array $only): array
    {
        $items = MediaItem::query()
            ->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids($ids)])
            ->get(['id', 'path', 'title', 'source_id'])
            ->keyBy('id');
        $files = MediaFile::query()
            ->whereRaw('media_item_id = any(cast(? as bigint[]))', [Sql::ids($ids)])
            ->orderByDesc('is_original')
            ->orderBy('path')
            ->get()
            ->groupBy('media_item_id');
        $sheets = (new Proofs($this->site->id))->sheets($ids, $only !== null);
        $uses = $this->usesOf($ids);
        $rows = $only === null ? $this->rows($items->pluck('source_id')->filter()->all()) : [];
        $idle = [];
        foreach ($ids as $id) {
            $item = $items->get($id);
            $sheet = $sheets[$id] ?? null;
            $own = $files->get($id)?->all() ?? [];
            // A row whose file is gone may go like any other; what has neither is nothing.
            if ($item === null || $sheet === null || ($own === [] && ! isset($rows[$item->source_id ?? '']))) {
                continue;
            }
            if ($only === null) {
                $idle[] = $this->one(
                    $item,
                    array_values($own),
                    $rows[$item->source_id ?? ''] ?? null,
                    $sheet['sheet'],
                    $uses[$id] ?? [],
                );

                continue;
            }
            foreach ($own as $file) {
                if (isset($only[$file->id], $sheet['files'][$file->id])) {
                    $idle[] = $this->one($item, [$file], null, $sheet['files'][$file->id], $uses[$id] ?? []);
                }
            }
        }

        return $idle;
    }

    /**
     * What names the items now, as an earlier version may, and what named them before it went.
     *
     * @param  non-empty-list<int>  $ids
     * @return array<int, list<array{kind: string, key: string, title: string, field: string, address: string}>>
     */
    private function usesOf(array $ids): array
    {
        $list = Sql::ids($ids);
        $found = DB::select(
            <<<'SQL'
            select item, kind, key, title, field, address from (
                select m.media_item_id as item, r.kind, r.key, r.title, m.field, coalesce(r.address, '') as address,
                    row_number() over (partition by m.media_item_id order by r.id, m.field, m.start) as n
                from media_references m join records r on r.id = m.record_id
                where m.media_item_id = any(cast(? as bigint[]))
                union all
                select media_item_id, kind, key, title, field, address, 0 from left_behind
                where media_item_id = any(cast(? as bigint[]))
            ) as uses where n <= ? order by item, n
            SQL
            ,
            [$list, $list, self::USES],
        );
        $uses = [];
        foreach ($found as $use) {
            $uses[(int) $use->item][] = [
                'kind' => (string) $use->kind,
                'key' => (string) $use->key,
                'title' => (string) $use->title,
                'field' => (string) $use->field,
                'address' => (string) $use->address,
            ];
        }

        return $uses;
    }

    /**
     * @param  list<MediaFile>  $files
     * @param  list<array{kind: string, key: string, title: string, field: string, address: string}>  $uses
     */
    private function one(MediaItem $item, array $files, ?MediaRow $row, ProofSheet $sheet, array $uses): Idle
    {
        return new Idle(
            $item->id,
            $item->path,
            $item->title,
            array_map(
                static fn (MediaFile $file): IdleFile => new IdleFile(
                    $file->path,
                    new FileState(trim($file->sha256), $file->size, $file->modified),
                    $file->mime,
                    $file->width === null || $file->height === null ? null : new Size($file->width, $file->height),
                    $file->is_original,
                ),
                $files,
            ),
            $row,
            $sheet->reason?->sentence,
            $sheet->verdict === Verdict::Needed,
            array_map(
                static fn (array $line): array => $line['source'] === ProofSource::Content->value && $uses !== []
                    ? [...$line, 'uses' => $uses]
                    : $line,
                $sheet->toArray(),
            ),
        );
    }

    /**
     * @param  array<mixed>  $ids in the source
     * @return array<array-key, MediaRow>
     */
    private function rows(array $ids): array
    {
        if ($this->keeping->leavesRows || $ids === []) {
            return [];
        }
        $rows = [];
        $texts = array_values(array_map(static fn (mixed $id): string => is_string($id) ? $id : '', $ids));
        foreach ($this->site->content->mediaRows($texts) as $row) {
            $rows[$row->id] = $row;
        }

        return $rows;
    }
}
