<?php

declare(strict_types=1);

namespace App\Retire;

use App\Support\BulkRows;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Imaging\Look;
use Ylema\Imaging\LookIndex;
use Ylema\Retire\Copy;
use Ylema\Retire\Keeper;

/** Works out which items show the same picture: the same bytes, another size or type, or a part of it. */
final readonly class Alike
{
    /** Bits in which the fingerprints of a part and of the picture it was cut from may differ. */
    private const PART_DISTANCE = 11;

    /** Pairs whose cells are fetched and compared at once. */
    private const BATCH = 500;

    public function __construct(private int $siteId)
    {
    }

    public function settle(): void
    {
        $groups = $this->groups();
        DB::transaction(function () use ($groups): void {
            DB::table('alike')->where('site_id', $this->siteId)->delete();
            $rows = new BulkRows('alike', ['site_id', 'group_no', 'media_item_id', 'how', 'reason']);
            $copies = $this->copies(array_merge(...array_map(array_keys(...), $groups)));
            $number = 0;
            foreach ($groups as $group) {
                $own = array_values(array_intersect_key($copies, $group));
                if (count($own) < 2) {
                    continue;
                }
                [$keeper, $reason] = Keeper::of($own);
                $number++;
                foreach ($own as $copy) {
                    $rows->add([
                        $this->siteId,
                        $number,
                        $copy->item,
                        $copy->item === $keeper ? 'keeper' : $group[$copy->item],
                        $copy->item === $keeper ? $reason : '',
                    ]);
                }
            }
            $rows->flush();
        });
    }

    /** @return list<array<int, string>> for each group: item → how it is alike */
    private function groups(): array
    {
        $parent = $how = [];
        $find = static function (int $item) use (&$parent): int {
            while (($parent[$item] ?? $item) !== $item) {
                $item = $parent[$item] = $parent[$parent[$item]] ?? $parent[$item];
            }

            return $item;
        };
        $join = static function (int $one, int $other, string $as) use (&$parent, &$how, $find): void {
            $parent[$find($other)] = $find($one);
            foreach ([$one, $other] as $item) {
                $parent[$item] ??= $item;
                // The nearest likeness is the one that is said.
                $how[$item] = match (true) {
                    ($how[$item] ?? '') === 'bytes', $as === 'bytes' => 'bytes',
                    ($how[$item] ?? '') === 'picture', $as === 'picture' => 'picture',
                    default => 'part',
                };
            }
        };
        foreach ($this->sameBytes() as [$one, $other]) {
            $join($one, $other, 'bytes');
        }
        foreach ($this->alikePictures() as [$one, $other, $as]) {
            $join($one, $other, $as);
        }
        $groups = [];
        foreach (array_keys($parent) as $item) {
            $groups[$find($item)][$item] = $how[$item] ?? 'picture';
        }
        ksort($groups);

        return array_values($groups);
    }

    /** @return iterable<array{int, int}> */
    private function sameBytes(): iterable
    {
        $rows = DB::cursor(
            <<<'SQL'
            select f.media_item_id as one, g.media_item_id as other from (
                select sha256, min(media_item_id) as media_item_id from files
                where site_id = ? and is_original and size > 0 and media_item_id is not null
                group by sha256 having count(*) > 1
            ) as f join files g on g.site_id = ? and g.is_original and g.sha256 = f.sha256
            where g.media_item_id <> f.media_item_id
            SQL
            ,
            [$this->siteId, $this->siteId],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            yield [(int) $row->one, (int) $row->other];
        }
    }

    /** @return iterable<array{int, int, string}> two items, and what the second is to the first */
    private function alikePictures(): iterable
    {
        $index = new LookIndex();
        $items = [];
        $rows = DB::cursor(
            <<<'SQL'
            select min(f.media_item_id) as item, l.print from files f join looks l on l.sha256 = f.sha256
            where f.site_id = ? and f.is_original and f.media_item_id is not null and not l.plain
            group by l.sha256, l.print order by 1
            SQL
            ,
            [$this->siteId],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $items[$index->add((int) $row->print)] = (int) $row->item;
        }
        $seen = $pairs = [];
        foreach ($index->pairs() as [$one, $other]) {
            if (! isset($seen["$one $other"])) {
                $seen["$one $other"] = true;
                $pairs[] = [$items[$one], $items[$other], null];
            }
            if (count($pairs) >= self::BATCH) {
                yield from $this->sure($pairs);
                $pairs = [];
            }
        }
        yield from $this->sure($pairs);
        yield from $this->partsOf($index, $items);
    }

    /**
     * @param  array<int, int>  $items number in the index → item
     * @return iterable<array{int, int, string}>
     */
    private function partsOf(LookIndex $index, array $items): iterable
    {
        $numbers = array_flip($items);
        foreach (array_chunk($items, self::BATCH) as $chunk) {
            $pairs = [];
            foreach ($this->looks($chunk) as $item => $look) {
                foreach ($look->parts() as $which => $part) {
                    foreach ($index->near($part, self::PART_DISTANCE) as $number) {
                        if ($number !== $numbers[$item]) {
                            $pairs[] = [$item, $items[$number], $which];
                        }
                    }
                }
                if (count($pairs) >= self::BATCH) {
                    yield from $this->sure($pairs);
                    $pairs = [];
                }
            }
            yield from $this->sure($pairs);
        }
    }

    /**
     * Fingerprints may be near by chance; the cells decide.
     *
     * @param  list<array{int, int, int|null}>  $pairs two items, and which part of the first the second may be; null
     *       for the whole
     * @return iterable<array{int, int, string}>
     */
    private function sure(array $pairs): iterable
    {
        if ($pairs === []) {
            return;
        }
        $items = [...array_column($pairs, 0), ...array_column($pairs, 1)];
        $looks = $this->looks($items);
        foreach ($pairs as [$one, $other, $which]) {
            $whole = $looks[$one] ?? null;
            $part = $looks[$other] ?? null;
            if ($whole === null || $part === null) {
                continue;
            }
            if ($which === null ? $whole->isSameAs($part) : $part->isPartOf($whole, $which)) {
                yield [$one, $other, $which === null || $whole->isSameAs($part) ? 'picture' : 'part'];
            }
        }
    }

    /**
     * @param  list<int>  $items
     * @return array<int, Look>
     */
    private function looks(array $items): array
    {
        $looks = [];
        $rows = DB::select(
            <<<'SQL'
            select f.media_item_id as item, encode(l.cells, 'hex') as cells from files f
            join looks l on l.sha256 = f.sha256
            where f.media_item_id = any(cast(? as bigint[])) and f.is_original and not l.plain
            SQL
            ,
            [Sql::ids(array_unique($items))],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $looks[(int) $row->item] = new Look((string) hex2bin((string) $row->cells));
        }

        return $looks;
    }

    /**
     * @param  list<int>  $items
     * @return array<int, Copy>
     */
    private function copies(array $items): array
    {
        $copies = [];
        foreach (array_chunk($items, 5000) as $chunk) {
            $rows = DB::select(
                <<<'SQL'
                select i.id, i.path, i.uses, i.source_id, coalesce(f.width * f.height, 0) as pixels, f.modified,
                    (i.title <> '')::int + (i.alt <> '')::int + (i.caption <> '')::int + (i.credit <> '')::int as words,
                    i.verdict_by = 'code' as code
                from media_items i join files f on f.media_item_id = i.id and f.is_original
                where i.id = any(cast(? as bigint[]))
                SQL
                ,
                [Sql::ids($chunk)],
            );
            /** @var stdClass $row */
            foreach ($rows as $row) {
                $copies[(int) $row->id] = new Copy(
                    (int) $row->id,
                    (string) $row->path,
                    (int) $row->pixels,
                    (int) $row->uses,
                    (int) $row->words,
                    $row->source_id !== null,
                    $row->code === true,
                    (int) $row->modified,
                );
            }
        }

        return $copies;
    }
}
