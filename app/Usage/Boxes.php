<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\MediaReference;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Imaging\Size;
use Ylema\Plan\PlacedBox;

/** The boxes in which places show an item: their markup's own, and those that carriers above them are made for. */
final class Boxes
{
    private const STEPS = 6;

    /**
     * @param  list<MediaReference>  $references
     * @return array<int, PlacedBox> by the reference's number
     */
    public function of(array $references): array
    {
        $carriers = $this->carriers(
            array_values(array_unique(array_map(static fn (MediaReference $r): int => $r->record_id, $references))),
        );
        $boxes = [];
        foreach ($references as $reference) {
            [$name, $size] = $carriers[$reference->record_id] ?? ['', null];
            $boxes[$reference->id] = new PlacedBox(
                $reference->id,
                Placement::pixels($reference, 'width'),
                Placement::pixels($reference, 'height'),
                $size,
                $name,
            );
        }

        return $boxes;
    }

    /**
     * The nearest carrier with a box of its own: its title and the box.
     *
     * @param  list<int>  $records
     * @return array<int, array{string, Size}> by record
     */
    private function carriers(array $records): array
    {
        $found = [];
        $ring = array_map(static fn (int $id): array => [$id], array_combine($records, $records));
        for ($step = 0; $step <= self::STEPS && $ring !== []; $step++) {
            $next = [];
            foreach ($this->above(array_keys($ring), $step === 0) as $row) {
                $box =
                    preg_match('~^(\d+) × (\d+)$~D', (string) $row->box, $m) === 1
                        ? new Size(max(1, (int) $m[1]), max(1, (int) $m[2]))
                        : null;
                foreach ($ring[(int) $row->below] as $record) {
                    if (isset($found[$record])) {
                        continue;
                    }
                    if ($box !== null) {
                        $found[$record] = [(string) $row->title, $box];
                    } else {
                        $next[(int) $row->id][] = $record;
                    }
                }
            }
            $ring = array_map(static fn (array $own): array => array_values(array_unique($own)), $next);
        }

        return $found;
    }

    /**
     * @param  list<int>  $records
     * @param  bool  $own whether the records themselves are meant, and not what carries them
     * @return list<stdClass>
     */
    private function above(array $records, bool $own): array
    {
        return array_values(
            DB::select(
                $own
                    ? "select id, id as below, title, facts->>'Box' as box from records where id = any(cast(? as "
                        .'bigint[]))'
                    : "select distinct r.id, c.carried_id as below, r.title, r.facts->>'Box' as box from carrying c "
                        .'join records r on r.id = c.carrier_id where c.carried_id = any(cast(? as bigint[])) '
                        .'order by r.id',
                [Sql::ids($records)],
            ),
        );
    }
}
