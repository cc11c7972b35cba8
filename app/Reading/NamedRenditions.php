<?php

declare(strict_types=1);

namespace App\Reading;

use App\Sites\OpenSite;
use App\Support\BulkRows;
use Illuminate\Support\Facades\DB;

/**
 * Says of files that no media row lists whether their names make them smaller pictures of another file, listed or not,
 * and makes items of those that they do not. It depends on the files and rows alone, never on the items of before, so
 * that two readings of one content say the same.
 */
final readonly class NamedRenditions
{
    /** A size of a size of a size: deeper than this, names go round in circles. */
    private const DEEPEST = 8;

    public function __construct(private OpenSite $site)
    {
    }

    /** Fills the temporary table "owners" further; afterwards each file that has none is an item of its own. */
    public function assign(): void
    {
        $site = ['site' => $this->site->id];
        DB::statement(
            'create temporary table named_after (file_id bigint, original_id bigint, place integer) on commit drop',
        );
        $this->list();
        // Of the originals that a name may mean, the first pattern's that is there.
        DB::delete(
            <<<'SQL'
            delete from named_after n using named_after b
            where b.file_id = n.file_id and (b.place, b.original_id) < (n.place, n.original_id)
            SQL
            ,
        );
        DB::delete(
            <<<'SQL'
            delete from media_items m where m.site_id = :site and m.source_id is null and (
                not exists (select 1 from files f where f.site_id = m.site_id and f.path = m.path)
                or exists (select 1 from files f left join owners o on o.file_id = f.id
                    where f.site_id = m.site_id and f.path = m.path and (o.media_item_id <> m.id
                        or exists (select 1 from named_after n where n.file_id = f.id))))
            SQL
            ,
            $site,
        );
        $this->makeItems('not exists (select 1 from named_after n where n.file_id = f.id)');
        for ($depth = 0; $depth < self::DEEPEST; $depth++) {
            $owned = DB::affectingStatement(
                <<<'SQL'
                insert into owners select n.file_id, o.media_item_id, false
                from named_after n join owners o on o.file_id = n.original_id on conflict do nothing
                SQL
                ,
            );
            if ($owned === 0) {
                break;
            }
        }
        // Those whose names mean each other.
        $this->makeItems('true');
    }

    private function makeItems(string $condition): void
    {
        $bind = ['site' => $this->site->id];
        DB::insert(
            <<<SQL
            insert into media_items (site_id, path, title, folder)
            select f.site_id, f.path, regexp_replace(f.path, '^.*/', ''), regexp_replace(f.path, '/[^/]*$', '')
            from files f left join owners o on o.file_id = f.id
            where f.site_id = :site and o.file_id is null and $condition on conflict do nothing
            SQL
            ,
            $bind,
        );
        DB::insert(
            <<<SQL
            insert into owners select f.id, m.id, true from files f
            join media_items m on m.site_id = f.site_id and m.path = f.path left join owners o on o.file_id = f.id
            where f.site_id = :site and o.file_id is null and $condition on conflict do nothing
            SQL
            ,
            $bind,
        );
    }

    /** Files without an owner, with each other file that their names may be made from. */
    private function list(): void
    {
        $names = $this->site->renditionNames();
        DB::table('files as f')
            ->leftJoin('owners as o', 'o.file_id', '=', 'f.id')
            ->where('f.site_id', $this->site->id)
            ->whereNull('o.file_id')
            ->select('f.id', 'f.path')
            ->chunkById(
                2000,
                function ($files) use ($names): void {
                    $wanted = [];
                    foreach ($files as $file) {
                        foreach ($names->originalsOf((string) $file->path) as $place => $original) {
                            $wanted[$original][] = [(int) $file->id, $place];
                        }
                    }
                    $found = DB::table('files')
                        ->where('site_id', $this->site->id)
                        ->whereIn('path', array_map(strval(...), array_keys($wanted)))
                        ->pluck('id', 'path');
                    $rows = new BulkRows('named_after', ['file_id', 'original_id', 'place']);
                    foreach ($found as $path => $original) {
                        foreach ($wanted[$path] as [$file, $place]) {
                            if ($file !== (int) $original) {
                                $rows->add([$file, (int) $original, $place]);
                            }
                        }
                    }
                    $rows->flush();
                },
                'f.id',
                'id',
            );
    }
}
