<?php

declare(strict_types=1);

namespace App\Plans;

use App\Retire\Renditions;
use App\Sites\OpenSite;
use Closure;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Imaging\Size;
use Ylema\Plan\LostSize;
use Ylema\Plan\MediaFacts;

/** Renditions that are not there, with the size that they had: as their name says, and as others of that width are. */
final readonly class LostSizes
{
    private const BATCH = 250;

    /** @param  Closure(list<int>): array<int, MediaFacts>  $media */
    public function __construct(private OpenSite $site, private Closure $media)
    {
    }

    /** @return iterable<list<LostSize>> */
    public function of(?int $item, ?int $width): iterable
    {
        $cuts = $this->cuts();
        $batch = [];
        $rows = DB::select('select * from ('.Renditions::LOST.') as l', ['site' => $this->site->id]);
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $said = $this->site->renditionNames()->sizeIn((string) $row->path);
            if (($item !== null && (int) $row->item !== $item) || ($width !== null && ($said[0] ?? null) !== $width)) {
                continue;
            }
            $batch[(string) $row->path] = [(int) $row->item, $said];
            if (count($batch) === self::BATCH) {
                yield $this->sized($batch, $cuts);
                $batch = [];
            }
        }
        if ($batch !== []) {
            yield $this->sized($batch, $cuts);
        }
    }

    /**
     * @param  array<array-key, array{int, array{int|null, int|null}|null}>  $batch path → item and what its name says
     * @param  array<int, int>  $cuts
     * @return list<LostSize>
     */
    private function sized(array $batch, array $cuts): array
    {
        $media = ($this->media)(array_values(array_unique(array_column($batch, 0))));
        $lost = [];
        foreach ($batch as $path => [$item, $said]) {
            $own = $media[$item] ?? null;
            if ($own !== null) {
                $lost[] = new LostSize((string) $path, self::size($said, $own->original()->size, $cuts), $own);
            }
        }

        return $lost;
    }

    /**
     * @param  array{int|null, int|null}|null  $said
     * @param  array<int, int>  $cuts
     */
    private static function size(?array $said, ?Size $original, array $cuts): ?Size
    {
        [$width, $height] = $said ?? [null, null];
        if ($width !== null && $height === null) {
            $height = $cuts[$width] ?? ($original === null ? null : (int) round($width / $original->ratio()));
        } elseif ($height !== null && $width === null && $original !== null) {
            $width = (int) round($height * $original->ratio());
        }

        return $width === null || $height === null ? null : new Size(max(1, $width), max(1, $height));
    }

    /** @return array<int, int> width → height, for widths that the site always cuts to one height */
    private function cuts(): array
    {
        $rows = DB::select(
            'select width, min(height) as height from files where site_id = ? and not is_original and width is not null '
                .'group by width having min(height) = max(height) and count(*) > 2',
            [$this->site->id],
        );
        $cuts = [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $cuts[(int) $row->width] = (int) $row->height;
        }

        return $cuts;
    }
}
