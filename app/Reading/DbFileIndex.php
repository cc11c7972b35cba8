<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\MediaFile;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use Ylema\Addresses\FileIndex;

/** The resolver's questions, answered from the index of files: one statement for each batch. */
final readonly class DbFileIndex implements FileIndex
{
    private const HANDFUL = 8;

    public function __construct(private int $siteId)
    {
    }

    public function existing(array $paths): array
    {
        return array_map(
            intval(...),
            MediaFile::query()
                ->where('site_id', $this->siteId)
                ->whereRaw('path = any(cast(? as text[]))', [Sql::texts($paths)])
                ->pluck('size', 'path')
                ->all(),
        );
    }

    public function folded(array $folds): array
    {
        return $this->grouped('fold', $folds);
    }

    public function named(array $names): array
    {
        return $this->grouped('name_fold', $names);
    }

    public function stemmed(array $stems): array
    {
        return $this->grouped("regexp_replace(fold, '\\.[^./]*$', '')", $stems);
    }

    public function listed(array $paths): array
    {
        $originals = [];
        $rows = DB::select(
            <<<'SQL'
            select r.path, min(m.path) as original from media_items m cross
                join lateral jsonb_array_elements_text(m.renditions) as r(path)
            where m.site_id = ? and m.source_id is not null and r.path = any(cast(? as text[])) and r.path <> m.path
            and exists (select 1 from files f where f.site_id = m.site_id and f.path = m.path) group by r.path
            SQL
            ,
            [$this->siteId, Sql::texts($paths)],
        );
        foreach ($rows as $row) {
            $originals[(string) $row->path] = (string) $row->original;
        }

        return $originals;
    }

    public function sameBytes(array $paths): array
    {
        $files = [];
        $rows = DB::select(
            <<<'SQL'
            select g.path, f.path as now from former_files g join files f on f.site_id = g.site_id
                and f.sha256 = g.sha256
            where g.site_id = ? and g.path = any(cast(? as text[])) order by g.path, f.path
            SQL
            ,
            [$this->siteId, Sql::texts($paths)],
        );
        foreach ($rows as $row) {
            if (count($files[(string) $row->path] ?? []) < self::HANDFUL) {
                $files[(string) $row->path][] = (string) $row->now;
            }
        }

        return $files;
    }

    /**
     * @param  string  $expression of the table of files, one that an index answers
     * @param  list<string>  $values
     * @return array<string, list<string>>
     */
    private function grouped(string $expression, array $values): array
    {
        $grouped = [];
        foreach (
            DB::select(
                "select $expression as said, path from files where site_id = ? and $expression = "
                    .'any(cast(? as text[])) order by path',
                [$this->siteId, Sql::texts($values)],
            ) as $file
        ) {
            $grouped[(string) $file->said][] = (string) $file->path;
        }

        return $grouped;
    }
}
