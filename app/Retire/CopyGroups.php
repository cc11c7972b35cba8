<?php

declare(strict_types=1);

namespace App\Retire;

use App\Models\Site;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;

/** Groups of items that show the same picture, as they were last worked out. */
final readonly class CopyGroups
{
    public function __construct(private Site $site)
    {
    }

    /** @return array{total: int, items: int, same: int, groups: list<array<string, mixed>>} */
    public function page(string $how, int $offset, int $limit): array
    {
        $query = DB::table('alike')
            ->where('site_id', $this->site->id)
            ->groupBy('group_no')
            ->when($how !== '', fn ($q) => $q->havingRaw('bool_or(how = ?)', [$how]))
            ->select('group_no');
        $total = DB::query()->fromSub(clone $query, 'g')->count();
        $numbers = array_map(
            static fn (mixed $n): int => is_numeric($n) ? (int) $n : 0,
            // What is the same to the last byte first, and of those the heaviest spare files.
            $query
                ->orderByRaw("bool_or(how = 'bytes') desc")
                ->orderByRaw(
                    '(select sum(f.size) from alike b join files f on f.media_item_id = b.media_item_id '
                        ."where b.site_id = {$this->site->id} and b.group_no = alike.group_no "
                        ."and b.how <> 'keeper') desc nulls last, group_no",
                )
                ->offset($offset)
                ->limit($limit)
                ->pluck('group_no')
                ->all(),
        );

        return [
            'total' => $total,
            'items' => DB::table('alike')->where('site_id', $this->site->id)->where('how', '<>', 'keeper')->count(),
            'same' => DB::table('alike')->where('site_id', $this->site->id)->where('how', 'bytes')->count(),
            'groups' => $this->groups(array_values($numbers)),
        ];
    }

    /**
     * @param  list<int>  $numbers
     * @return list<array<string, mixed>>
     */
    private function groups(array $numbers): array
    {
        $rows = DB::select(
            <<<'SQL'
            select a.group_no, a.how, a.reason, i.id, i.path, i.title, i.alt, i.standing, i.uses, i.reach, i.verdict,
                o.id as file_id, o.sha256, o.mime, o.width, o.height, o.size,
                (select sum(f.size) from files f where f.media_item_id = i.id) as bytes
            from alike a join media_items i on i.id = a.media_item_id
            left join files o on o.media_item_id = i.id and o.is_original
            where a.site_id = ? and a.group_no = any(cast(? as integer[]))
            order by a.group_no, a.how <> 'keeper', a.how <> 'bytes', i.path
            SQL
            ,
            [$this->site->id, Sql::ids($numbers)],
        );
        $groups = array_fill_keys($numbers, ['keeper' => 0, 'reason' => '', 'spare' => 0, 'items' => []]);
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $group = &$groups[(int) $row->group_no];
            if ($row->how === 'keeper') {
                $group['keeper'] = (int) $row->id;
                $group['reason'] = (string) $row->reason;
            } else {
                $group['spare'] += (int) $row->bytes;
            }
            $group['items'][] = [
                'id' => (int) $row->id,
                'how' => (string) $row->how,
                'path' => (string) $row->path,
                'title' => (string) $row->title,
                'alt' => (string) $row->alt,
                'standing' => (string) $row->standing,
                'verdict' => (string) $row->verdict,
                'uses' => (int) $row->uses,
                'reach' => (int) $row->reach,
                'file_id' => $row->file_id === null ? null : (int) $row->file_id,
                'sha256' => trim((string) $row->sha256),
                'mime' => (string) $row->mime,
                'width' => $row->width === null ? null : (int) $row->width,
                'height' => $row->height === null ? null : (int) $row->height,
                'weight' => (int) $row->size,
                'bytes' => (int) $row->bytes,
            ];
            unset($group);
        }

        return array_values($groups);
    }
}
