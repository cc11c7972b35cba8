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

/**
 * Works out which items show the same picture (the same bytes, another size or type, a part of it), and which look
 * alike.
 */
final readonly class Alike
{
    /** Bits in which the fingerprints of a part and of the picture it was cut from may differ. */
    private const PART_DISTANCE = 9;

    /** Pairs whose cells are fetched and compared at once. */
    private const BATCH = 500;

    public function __construct(private int $siteId)
    {
    }

    /**
     * Works out groups anew. What looks alike from afar is asked about (Comparisons); until somebody looked closely, it
     * is said to look alike and no more.
     */
    public function settle(): void
    {
        $alike = [];
        (new Comparisons($this->siteId))->ask($this->candidates($alike));
        $says = $this->compared();
        $groups = $this->groups([...$alike, ...array_map(
            static fn (string $pair): array => array_map(intval(...), explode(' ', $pair, 2)),
            array_keys($says),
        )]);
        DB::transaction(function () use ($groups, $says): void {
            DB::table('alike')->where('site_id', $this->siteId)->delete();
            $rows = new BulkRows('alike', ['site_id', 'group_no', 'media_item_id', 'how', 'reason']);
            $items = array_merge(...$groups);
            $copies = $this->copies($items);
            $number = 0;
            foreach ($groups as $group) {
                $own = array_values(array_intersect_key($copies, array_flip($group)));
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
                        $copy->item === $keeper ? 'keeper' : self::how($keeper, $copy->item, $says),
                        $copy->item === $keeper ? $reason : '',
                    ]);
                }
            }
            $rows->flush();
        });
    }

    /** @param  array<string, string>  $says */
    private static function how(int $keeper, int $item, array $says): string
    {
        return match ($says["$keeper $item"] ?? $says["$item $keeper"] ?? null) {
            'bytes' => 'bytes',
            Comparisons::SAME, Comparisons::MARKED => 'picture',
            Comparisons::PART => 'part',
            default => 'alike',
        };
    }

    /**
     * @param  list<array{int, int}|list<int>>  $pairs of items that belong together
     * @return list<list<int>>
     */
    private function groups(array $pairs): array
    {
        $parent = [];
        $find = static function (int $item) use (&$parent): int {
            while (($parent[$item] ?? $item) !== $item) {
                $item = $parent[$item] = $parent[$parent[$item]] ?? $parent[$item];
            }

            return $item;
        };
        foreach ($pairs as [$one, $other]) {
            $parent[$one] ??= $one;
            $parent[$other] ??= $other;
            $parent[$find($other)] = $find($one);
        }
        $groups = [];
        foreach (array_keys($parent) as $item) {
            $groups[$find($item)][] = $item;
        }
        ksort($groups);

        return array_values($groups);
    }

    /** @return array<string, string> two items → bytes, or what came of looking closely where both show the same */
    private function compared(): array
    {
        $rows = DB::cursor(
            <<<'SQL'
            select f.media_item_id as one, g.media_item_id as other, c.says from comparisons c
            join files f on f.site_id = :site and f.is_original and f.sha256 = c.one
            join files g on g.site_id = :site and g.is_original and g.sha256 = c.other
            where c.says in ('same', 'marked', 'part') and f.media_item_id is not null and g.media_item_id is not null
            SQL
            ,
            ['site' => $this->siteId],
        );
        $says = [];
        foreach ($this->sameBytes() as [$one, $other]) {
            $says["$one $other"] = 'bytes';
        }
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $says["$row->one $row->other"] = (string) $row->says;
        }

        return $says;
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

    /**
     * Pairs that a closer look may turn out to be the same.
     *
     * @param  list<array{int, int}>  $alike items that look alike from afar already
     * @return iterable<array{string, string, int|null}> two content hashes, and which part of the first the second
     *     may be
     */
    private function candidates(array &$alike): iterable
    {
        $index = new LookIndex();
        $items = $hashes = [];
        $rows = DB::cursor(
            <<<'SQL'
            select min(f.media_item_id) as item, l.print, l.sha256 from files f join looks l on l.sha256 = f.sha256
            where f.site_id = ? and f.is_original and f.media_item_id is not null and not l.plain
            group by l.sha256, l.print order by 1
            SQL
            ,
            [$this->siteId],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $number = $index->add((int) $row->print);
            $items[$number] = (int) $row->item;
            $hashes[$number] = (string) $row->sha256;
        }
        $seen = $pairs = [];
        foreach ($index->pairs() as [$one, $other]) {
            if (! isset($seen["$one $other"])) {
                $seen["$one $other"] = true;
                $pairs[] = [$one, $other, null];
            }
            if (count($pairs) >= self::BATCH) {
                yield from $this->likely($pairs, $items, $hashes, $alike);
                $pairs = [];
            }
        }
        yield from $this->likely($pairs, $items, $hashes, $alike);
        yield from $this->parts($index, $items, $hashes);
    }

    /**
     * @param  array<int, int>  $items number in the index → item
     * @param  array<int, string>  $hashes number → content hash
     * @return iterable<array{string, string, int|null}>
     */
    private function parts(LookIndex $index, array $items, array $hashes): iterable
    {
        $numbers = array_flip($items);
        $none = [];
        foreach (array_chunk($items, self::BATCH) as $chunk) {
            $pairs = [];
            foreach ($this->looks($chunk) as $item => $look) {
                foreach ($look->parts() as $which => $part) {
                    foreach ($index->near($part, self::PART_DISTANCE) as $number) {
                        if ($number !== $numbers[$item]) {
                            $pairs[] = [$numbers[$item], $number, $which];
                        }
                    }
                }
                if (count($pairs) >= self::BATCH) {
                    yield from $this->likely($pairs, $items, $hashes, $none);
                    $pairs = [];
                }
            }
            yield from $this->likely($pairs, $items, $hashes, $none);
        }
    }

    /**
     * Fingerprints may be near by chance; the cells say what is worth a closer look.
     *
     * @param  list<array{int, int, int|null}>  $pairs two numbers in the index, and which part of the first the second
     *       may be; null for the whole
     * @param  array<int, int>  $items
     * @param  array<int, string>  $hashes
     * @param  list<array{int, int}>  $alike
     * @return iterable<array{string, string, int|null}>
     */
    private function likely(array $pairs, array $items, array $hashes, array &$alike): iterable
    {
        if ($pairs === []) {
            return;
        }
        $of = static fn (int $number): int => $items[$number];
        $looks = $this->looks(array_map($of, [...array_column($pairs, 0), ...array_column($pairs, 1)]));
        foreach ($pairs as [$one, $other, $which]) {
            $whole = $looks[$items[$one]] ?? null;
            $part = $looks[$items[$other]] ?? null;
            if ($whole === null || $part === null) {
                continue;
            }
            if ($which === null && $whole->isSameAs($part)) {
                $alike[] = [$items[$one], $items[$other]];
            }
            if ($which === null ? $whole->couldBe($part) : $part->couldBePartOf($whole, $which)) {
                yield [$hashes[$one], $hashes[$other], $which];
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
