<?php

declare(strict_types=1);

namespace App\Reading;

use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Sites\SourceRecord;

/**
 * Files that the site's own code finds by what a record is called: a picture named by a number, all that lies in a
 * gallery's folder. No text names them, so the files themselves are asked, for many records at once.
 */
final readonly class ShownFiles
{
    /** @param  int|null  $reading whose list of files counts; null for the index as it is */
    public function __construct(private int $site, private ?int $reading)
    {
    }

    /**
     * @param  list<SourceRecord>  $records
     * @return array<int, list<string>> under the keys of the list → paths in their order; only those that have some
     */
    public function of(array $records): array
    {
        // By what of a path is asked for: all of it, all but its ending, or its folder.
        $asked = ['path' => [], "substring(path from '^.*[.]')" => [], "substring(path from '^.*/')" => []];
        [$whole, $stem, $folder] = array_keys($asked);
        foreach ($records as $n => $record) {
            foreach ($record->shows as $pattern) {
                $is = match (true) {
                    str_ends_with($pattern, '.*') => $stem,
                    str_ends_with($pattern, '/*') => $folder,
                    default => $whole,
                };
                $asked[$is][$is === $whole ? $pattern : substr($pattern, 0, -1)][] = $n;
            }
        }
        $shown = [];
        foreach ($asked as $is => $values) {
            foreach ($values === [] ? [] : $this->paths($is, array_keys($values)) as [$path, $value]) {
                foreach ($values[$value] as $n) {
                    $shown[$n][$path] = true;
                }
            }
        }

        return array_map(static function (array $paths): array {
            ksort($paths);

            return array_map(strval(...), array_keys($paths));
        }, $shown);
    }

    /**
     * @param  string  $is in SQL, of a file
     * @param  list<array-key>  $values
     * @return list<array{string, string}> paths, each with the value
     */
    private function paths(string $is, array $values): array
    {
        $table = $this->reading === null
            ? 'files where site_id = ?'
            : 'staged_files where reading_id = ? and size >= 0';
        $rows = DB::select(
            "select path, $is as value from $table and $is = any(cast(? as text[]))",
            [$this->reading ?? $this->site, Sql::texts(array_map(strval(...), $values))],
        );

        return array_values(
            array_map(static fn (stdClass $row): array => [(string) $row->path, (string) $row->value], $rows),
        );
    }
}
