<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\MediaItem;
use Illuminate\Database\Eloquent\Builder;

/** The marks by which items are chosen in the ledger; each facet counts under all of them but its own. */
final readonly class MediaFilter
{
    /** @use Marks<MediaItem> */
    use Marks;

    private const FLAGS = ['trouble', 'copies', 'large', 'left', 'unlisted', 'mentioned'];

    /** More pixels across than a page of today shows. */
    private const LARGE = 2600;

    /** SQL: what the type of a file is called, `jpeg` or `svg`. */
    private const TYPE = "regexp_replace(original.mime, '^.*/|\\+xml$', '', 'g')";

    /** SQL: the year in which an item's original was last written. */
    private const YEAR = "to_char(to_timestamp(original.modified) at time zone 'UTC', 'YYYY')";

    /** SQL: the folder of an item. */
    private const FOLDER = "regexp_replace(media_items.path, '/[^/]*$', '')";

    /**
     * @param  string|null  $except a mark that does not count
     * @return Builder<MediaItem> with the original joined as `original`
     */
    public function query(?string $except = null): Builder
    {
        $query = MediaItem::query()
            ->where('media_items.site_id', $this->site->id)
            ->leftJoin(
                'files as original',
                fn ($join) => $join
                    ->on('original.media_item_id', '=', 'media_items.id')
                    ->where('original.is_original', true),
            );

        return $this->narrowed($query, $except);
    }

    /** @return array<string, mixed> facet → values with their counts */
    public function facets(): array
    {
        $count = fn (string $facet, string $expression): array => self::counts(
            $this->query($facet)->selectRaw("$expression as value, count(*) as count"),
        );
        $flag = fn (string $name): int => (new self($this->site, [...$this->marks, $name => '1']))->query()->count();

        return [
            'standing' => $count('standing', 'media_items.standing'),
            'proof' => $count('proof', 'media_items.verdict'),
            'folder' => $count('folder', self::FOLDER),
            'type' => $count('type', 'coalesce('.self::TYPE.", 'missing')"),
            'use' => self::counts(
                $this->query('use')
                    ->crossJoin(MediaItem::query()->raw('lateral jsonb_object_keys(use_kinds) as k'))
                    ->selectRaw('k as value, count(*) as count'),
            ),
            'trouble' => $flag('trouble'),
            'copies' => $flag('copies'),
            'large' => $flag('large'),
            'left' => $flag('left'),
            'unlisted' => $flag('unlisted'),
            'mentioned' => $flag('mentioned'),
        ];
    }

    /** @param  Builder<MediaItem>  $query */
    private function narrow(Builder $query, string $name, string $value): void
    {
        match ($name) {
            'q' => Find::items($query, Asked::of($this->site, $value)),
            'standing' => $query->where('media_items.standing', $value),
            'proof' => $query->where('media_items.verdict', $value),
            'because' => $query->where('media_items.verdict_by', $value),
            'year' => $query->whereRaw(self::YEAR.' = ?', [$value]),
            'folder' => $query->whereRaw(self::FOLDER.' = ?', [$value]),
            'use' => $query->whereRaw('jsonb_exists(media_items.use_kinds, ?)', [$value]),
            'type' => $value === 'missing'
                ? $query->whereNull('original.id')
                : $query->whereRaw(self::TYPE.' = ?', [$value]),
            'trouble' => $query->where('media_items.broken', '>', 0),
            'copies' => $query->whereIn(
                'original.sha256',
                fn ($same) => $same
                    ->from('files')
                    ->select('sha256')
                    ->where('site_id', $this->site->id)
                    ->where('is_original', true)
                    ->groupBy('sha256')
                    ->havingRaw('count(*) > 1'),
            ),
            'mentioned' => $query->where('media_items.mentions', '>', 0)->where('media_items.standing', 'idle'),
            'unlisted' => $query->whereNull('media_items.source_id'),
            'left' => $query->whereExists(
                fn ($left) => $left->from('left_behind')->whereColumn('left_behind.media_item_id', 'media_items.id'),
            ),
            'like' => $this->likeShape($query, (int) $value),
            'large' => $query->where('original.width', '>', self::LARGE)->where('media_items.uses', '>', 0),
            default => null,
        };
    }

    /**
     * Of nearly the same proportions, for whoever looks for a stand-in; never the item itself.
     *
     * @param  Builder<MediaItem>  $query
     */
    private function likeShape(Builder $query, int $item): void
    {
        $query->where('media_items.id', '<>', $item)->whereExists(
            fn ($old) => $old
                ->from('files as old')
                ->where('old.media_item_id', $item)
                ->where('old.is_original', true)
                ->whereRaw("split_part(old.mime, '/', 1) = split_part(original.mime, '/', 1)")
                ->whereRaw(
                    'coalesce(abs(ln(cast(old.width as float) * original.height / (cast(old.height as float) '
                        .'* original.width))) < 0.05, old.width is null)',
                ),
        );
    }

    /**
     * @param  Builder<MediaItem>  $query with `value` and `count`
     * @return list<array{value: string, count: int}>
     */
    private static function counts(Builder $query): array
    {
        return array_values(
            array_map(
                static fn (object $row): array => [
                    'value' => (string) ($row->value ?? ''),
                    'count' => (int) ($row->count ?? 0),
                ],
                $query->groupByRaw('1')->orderByRaw('1')->toBase()->get()->all(),
            ),
        );
    }
}
