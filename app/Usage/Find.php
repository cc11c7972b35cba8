<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\MediaFile;
use App\Models\MediaItem;
use App\Models\Record;
use Illuminate\Database\Eloquent\Builder;

/** What somebody asked for, among items, files and records. */
final class Find
{
    private const ITEM =
        "(media_items.path || ' ' || media_items.title || ' ' || media_items.alt || ' ' || "
        ."media_items.caption || ' ' || media_items.credit || ' ' || media_items.tags::text)";

    private const RECORD = "(records.title || ' ' || coalesce(records.address, ''))";

    /**
     * @param  Builder<MediaItem>  $query
     * @return Builder<MediaItem>
     */
    public static function items(Builder $query, Asked $asked): Builder
    {
        return $query->where(
            fn (Builder $either): Builder => $either
                ->where(fn (Builder $all): Builder => self::holdAll($all, $asked, self::ITEM))
                ->when(
                    $asked->path !== null,
                    fn (Builder $q): Builder => $q
                        ->orWhere('media_items.path', $asked->path)
                        ->orWhereIn(
                            'media_items.id',
                            fn ($files) => $files
                                ->from('files')
                                ->select('media_item_id')
                                ->whereColumn('files.site_id', 'media_items.site_id')
                                ->where('files.path', $asked->path),
                        ),
                ),
        );
    }

    /**
     * Renditions, whose names no item says; an original is found as its item.
     *
     * @param  Builder<MediaFile>  $query
     * @return Builder<MediaFile>
     */
    public static function files(Builder $query, Asked $asked): Builder
    {
        return $query
            ->where('files.is_original', false)
            ->where(
                fn (Builder $either): Builder => $either
                    ->where(fn (Builder $all): Builder => self::holdAll($all, $asked, 'files.path'))
                    ->when($asked->path !== null, fn (Builder $q): Builder => $q->orWhere('files.path', $asked->path)),
            );
    }

    /**
     * @param  Builder<Record>  $query
     * @return Builder<Record>
     */
    public static function records(Builder $query, Asked $asked): Builder
    {
        return $query->where(
            fn (Builder $either): Builder => $either
                ->where(fn (Builder $all): Builder => self::holdAll($all, $asked, self::RECORD))
                ->when(
                    $asked->path !== null,
                    fn (Builder $q): Builder => $q->orWhereIn('records.address', self::spellings($asked->path ?? '')),
                ),
        );
    }

    /**
     * The page of that address first, then public pages, then what only holds the words.
     *
     * @param  Builder<Record>  $query
     * @return Builder<Record>
     */
    public static function recordsNearestFirst(Builder $query, Asked $asked): Builder
    {
        [$bare, $slashed] = self::spellings($asked->path ?? "\0none");

        return $query
            ->when(
                $asked->path !== null,
                fn (Builder $q): Builder => $q->orderByRaw(
                    'records.address is not distinct from ? desc, '.'records.address is not distinct from ? desc',
                    [$bare, $slashed],
                ),
            )
            ->orderByRaw('records.title ilike ? desc, records.is_page desc, records.state, records.title, records.id', [
                $asked->beginning(),
            ]);
    }

    /**
     * Of words each may stand in any of the texts, and all of them must be found.
     *
     * @template TModel of \Illuminate\Database\Eloquent\Model
     *
     * @param  Builder<TModel>  $query
     * @return Builder<TModel>
     */
    private static function holdAll(Builder $query, Asked $asked, string $texts): Builder
    {
        if ($asked->words === []) {
            return $query->whereRaw('false');
        }
        foreach ($asked->patterns() as $pattern) {
            $query->whereRaw("$texts ilike ?", [$pattern]);
        }

        return $query;
    }

    /**
     * Whoever types a name means the item of that name before those that only mention it.
     *
     * @param  Builder<MediaItem>  $query
     * @return Builder<MediaItem>
     */
    public static function itemsNearestFirst(Builder $query, Asked $asked): Builder
    {
        $beginning = $asked->beginning();

        return $query
            ->orderByRaw(
                'case when media_items.path = ? then 0 when media_items.title ilike ? then 1 when media_items.title '
                    .'ilike ? '
                    .'then 2 when media_items.path ilike ? then 3 else 4 end',
                [$asked->path ?? '', $beginning, "%$beginning", "%$beginning"],
            )
            ->orderByRaw('media_items.reach desc, media_items.id');
    }

    /** @return array{string, string} a page's address without and with its last slash */
    private static function spellings(string $path): array
    {
        return [rtrim($path, '/'), rtrim($path, '/').'/'];
    }
}
