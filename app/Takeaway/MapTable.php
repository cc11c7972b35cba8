<?php

declare(strict_types=1);

namespace App\Takeaway;

use App\Models\Site;
use App\Usage\UsageIndex;
use Generator;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Csv;

/** The map of a site as a table: a row for each place that refers to media, in the order of the records. */
final readonly class MapTable
{
    public const COLUMNS = [
        'record_kind',
        'record_key',
        'record_title',
        'record_state',
        'field',
        'line',
        'start',
        'length',
        'how',
        'names',
        'value',
        'outcome',
        'item',
        'item_id',
        'file',
        'standing',
        'reach',
        'pages',
    ];

    /** Records whose references are fetched in one statement. */
    private const BATCH = 500;

    /**
     * @param  array{kind?: string|null, standing?: string|null, path?: string|null, outcome?: string|null}  $only
     * @param  int  $pages so many addresses of pages are said of each row; what is everywhere is on all of them
     */
    public function __construct(private Site $site, private array $only = [], private int $pages = 100)
    {
    }

    /** @return Generator<array<string, string|int|list<string>|null>> by the names of COLUMNS */
    public function rows(): Generator
    {
        $graph = (new UsageIndex($this->site->id))->graph();
        $addresses = $this->addresses();
        $after = 0;
        do {
            $records = DB::table('records')
                ->where('site_id', $this->site->id)
                ->where('id', '>', $after)
                ->when($this->only['kind'] ?? null, fn (Builder $q, string $kind) => $q->where('kind', $kind))
                ->orderBy('id')
                ->limit(self::BATCH)
                ->get(['id', 'kind', 'key', 'title', 'state'])
                ->keyBy('id');
            $shown = [];
            foreach ($this->references($records->keys()->all()) as $reference) {
                $record = $records->get($reference->record_id) ?? new stdClass();
                $pages = $shown[$reference->record_id] ??= $graph->pagesOf([$reference->record_id]);
                yield [
                    'record_kind' => (string) $record->kind,
                    'record_key' => (string) $record->key,
                    'record_title' => (string) $record->title,
                    'record_state' => $graph->stateOf($reference->record_id)->word(),
                    'field' => (string) $reference->field,
                    'line' => (int) $reference->line,
                    'start' => (int) $reference->start,
                    'length' => (int) $reference->length,
                    'how' => (string) $reference->role,
                    'names' => (string) $reference->names,
                    'value' => (string) $reference->value,
                    'outcome' => $reference->outcome,
                    'item' => $reference->item,
                    'item_id' => $reference->source_id,
                    'file' => $reference->file,
                    'standing' => $reference->standing,
                    'reach' => count($pages),
                    'pages' => array_values(
                        array_map(
                            static fn (int $page): string => $addresses[$page] ?? '',
                            array_slice($pages, 0, $this->pages),
                        ),
                    ),
                ];
            }
            $after = $records->keys()->last();
        } while ($records->count() === self::BATCH);
    }

    /** @return Generator<string> lines of json (NDJSON) */
    public function ndjson(): Generator
    {
        foreach ($this->rows() as $row) {
            yield json_encode(
                $row,
                JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
            )."\n";
        }
    }

    /** @return Generator<string> as RFC 4180 has it, with a header; the pages of a row stand between spaces */
    public function csv(): Generator
    {
        yield Csv::row(self::COLUMNS);
        foreach ($this->rows() as $row) {
            yield Csv::row(
                array_values(
                    array_map(
                        static fn (string|int|array|null $cell): string|int|null => is_array($cell)
                            ? implode(' ', $cell)
                            : $cell,
                        $row,
                    ),
                ),
            );
        }
    }

    /**
     * @param  array<mixed>  $records
     * @return iterable<stdClass>
     */
    private function references(array $records): iterable
    {
        return DB::table('media_references as m')
            ->leftJoin('media_items as i', 'i.id', '=', 'm.media_item_id')
            ->leftJoin('addresses as a', 'a.id', '=', 'm.address_id')
            ->whereIn('m.record_id', $records)
            ->whereNotIn('m.names', ['record', 'owner'])
            ->when(
                $this->only['standing'] ?? null,
                fn (Builder $q, string $standing) => $q->where('i.standing', $standing),
            )
            ->when($this->only['outcome'] ?? null, fn (Builder $q, string $outcome) => $q->where('m.outcome', $outcome))
            ->when(
                $this->only['path'] ?? null,
                fn (Builder $q, string $path) => $q->where('i.path', 'like', addcslashes($path, '%_\\').'%'),
            )
            ->orderBy('m.record_id')
            ->orderBy('m.field')
            ->orderBy('m.start')
            ->get([
                'm.record_id',
                'm.field',
                'm.line',
                'm.start',
                'm.length',
                'm.role',
                'm.names',
                'm.value',
                'm.outcome',
                'i.path as item',
                'i.source_id',
                'i.standing',
                'a.path as file',
            ]);
    }

    /** @return array<int, string> page → its address, of all pages that visitors can be shown */
    private function addresses(): array
    {
        $site = $this->site->addresses();
        $known = [];
        $pages = DB::table('records')->where('site_id', $this->site->id)->where('is_page', true)->where('state', 0);
        foreach ($pages->select('id', 'address')->cursor() as $page) {
            $known[(int) $page->id] = $site->addressOfPage((string) $page->address);
        }

        return $known;
    }
}
