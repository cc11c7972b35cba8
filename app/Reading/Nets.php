<?php

declare(strict_types=1);

namespace App\Reading;

use Illuminate\Support\Facades\DB;
use Ylema\Connect\MediaKeys;
use Ylema\Net\FileNames;
use Ylema\Net\Net;

/**
 * The nets of sites: made of the names of all files, also of those at rest, since whoever names one of them calls it
 * back. A worker reads many chunks of one reading and keeps its net.
 */
final class Nets
{
    /** @var array<string, array{string, Net}> what it is for → what it was made of, and the net */
    private static array $kept = [];

    /** @var array{int, MediaKeys}|null reading, and the keys in its list of media */
    private static ?array $keys = null;

    /** @param  int|null  $reading whose list of files counts; null for the index as it is */
    public static function of(int $site, ?int $reading): Net
    {
        return $reading === null
            ? self::kept("index $site", self::state($site), static fn (): iterable => self::column(
                'select path as v from files where site_id = ? '
                    .'union all select path from resting_files where site_id = ?',
                [$site, $site],
            ))
            : self::kept('reading', (string) $reading, static fn (): iterable => self::column(
                'select path as v from staged_files where reading_id = ? and size >= 0 union all select path '
                    .'from resting_files where site_id = ?',
                [$reading, $site],
            ));
    }

    /** Of the names alone that records were not searched for which stay as they are. */
    public static function ofNew(int $site, int $reading): Net
    {
        return self::kept('new', (string) $reading, static fn (): iterable => self::column(
            'select s.path as v from staged_files s '
                .'left join files f on f.site_id = ? and f.path = s.path and f.netted '
                .'where s.reading_id = ? and s.size >= 0 and f.id is null',
            [$site, $reading],
        ));
    }

    /** The keys of the rows in the site's list of media, as a reading met them. */
    public static function keys(int $reading): MediaKeys
    {
        if ((self::$keys[0] ?? null) !== $reading) {
            self::$keys = null;
            self::$keys = [$reading, new MediaKeys(self::column(
                'select distinct source_id as v from staged_media where reading_id = ? and source_id is not null',
                [$reading],
            ))];
        }

        return self::$keys[1];
    }

    /** @return array<array-key, true> names that are words which the site's texts have anyway */
    public static function words(int $site): array
    {
        return array_fill_keys(DB::table('name_words')->where('site_id', $site)->pluck('stem')->all(), true);
    }

    /** A net that was made for a reading is of no use after it. */
    public static function forget(): void
    {
        unset(self::$kept['reading'], self::$kept['new']);
        self::$keys = null;
    }

    /** @param  callable(): iterable<string>  $paths */
    private static function kept(string $for, string $of, callable $paths): Net
    {
        if ((self::$kept[$for][0] ?? null) !== $of) {
            // One at a time: the names of a large site take some megabytes.
            unset(self::$kept[$for]);
            self::$kept[$for] = [$of, new Net(new FileNames($paths()))];
        }

        return self::$kept[$for][1];
    }

    private static function state(int $site): string
    {
        $row = DB::selectOne(
            'select (select count(*) || \' \' || coalesce(max(id), 0) from files where site_id = ?) || \' \' || '
                .'(select count(*) || \' \' || coalesce(max(id), 0) from resting_files where site_id = ?) as state',
            [$site, $site],
        );

        return is_object($row) && isset($row->state) ? (string) $row->state : '';
    }

    /**
     * @param  list<int>  $bindings
     * @return iterable<string> the values of its column v
     */
    private static function column(string $sql, array $bindings): iterable
    {
        foreach (DB::cursor($sql, $bindings) as $row) {
            yield (string) $row->v;
        }
    }
}
