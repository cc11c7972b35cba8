<?php

declare(strict_types=1);

namespace App\Health;

use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use stdClass;

/** Free bytes of the places in which an installation keeps things, and how long they last at the present growth. */
final class Space
{
    /** Days after which a count of free bytes is of no use. */
    private const DAYS = 30;

    /** Seconds that two counts must lie apart to tell of growth. */
    private const APART = 86_400;

    /** @return array<string, string> place → folder */
    public static function places(): array
    {
        $disk = static fn (string $name): string => rtrim(Storage::disk($name)->path(''), '/');
        $backups = config('backup.folder');

        return [
            'vault' => $disk('vault'),
            'rest' => $disk('rest'),
            'bags' => $disk('bags'),
            'work' => $disk('work'),
            'logs' => storage_path('logs'),
            ...is_string($backups) && $backups !== '' ? ['backups' => $backups] : [],
        ];
    }

    /** Counts once; what is older than a month goes. */
    public static function note(): void
    {
        foreach (self::places() as $place => $folder) {
            $free = self::free($folder);
            if ($free !== null) {
                DB::table('space')->insertOrIgnore(['place' => $place, 'at' => now(), 'free' => $free]);
            }
        }
        DB::table('space')->where('at', '<', now()->subDays(self::DAYS))->delete();
    }

    /**
     * @return list<array{place: string, free: int|null, total: int|null, days: int|null}> bytes; days are null where
     *       nothing grows, or where that is not known yet
     */
    public static function left(): array
    {
        $first = DB::select('select distinct on (place) place, extract(epoch from at)::bigint as at, free from space '
            .'order by place, at');
        $then = [];
        /** @var stdClass $row */
        foreach ($first as $row) {
            $then[(string) $row->place] = [(int) $row->at, (int) $row->free];
        }
        $left = [];
        foreach (self::places() as $place => $folder) {
            $free = self::free($folder);
            $total = $free === null ? null : (int) disk_total_space(self::existing($folder));
            [$at, $before] = $then[$place] ?? [time(), $free];
            $seconds = time() - $at;
            $lost = $free === null || $before === null ? 0 : $before - $free;
            $left[] = [
                'place' => $place,
                'free' => $free,
                'total' => $total,
                'days' => $free !== null && $lost > 0 && $seconds >= self::APART
                    ? (int) floor($free / ($lost / $seconds) / 86_400)
                    : null,
            ];
        }

        return $left;
    }

    private static function free(string $folder): ?int
    {
        $free = @disk_free_space(self::existing($folder));

        return $free === false ? null : (int) $free;
    }

    /** A folder that nothing was put into yet is not made for that. */
    private static function existing(string $folder): string
    {
        while (! is_dir($folder) && $folder !== '/' && $folder !== '.') {
            $folder = dirname($folder);
        }

        return $folder;
    }
}
