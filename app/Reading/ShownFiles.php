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
    /** Endings that are tried where a pattern leaves them open. */
    private const ENDINGS = [
        'jpg', 'jpeg', 'JPG', 'png', 'PNG', 'gif', 'webp', 'avif', 'svg', 'pdf', 'mp4', 'webm', 'mp3',
    ];

    /** Files of one record that count; a folder with more is no gallery. */
    private const MOST = 2000;

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
        $files = $folders = [];
        foreach ($records as $n => $record) {
            foreach ($record->shows as $pattern) {
                foreach (self::exact($pattern) as $path) {
                    $files[$path][] = $n;
                }
                if (basename($pattern) === '*') {
                    $folders[dirname($pattern).'/'][] = $n;
                }
            }
        }
        $shown = [];
        foreach ($files === [] ? [] : $this->paths('path', array_keys($files)) as $path) {
            foreach ($files[$path] as $n) {
                $shown[$n][$path] = true;
            }
        }
        foreach ($folders === [] ? [] : $this->paths("substring(path from '^.*/')", array_keys($folders)) as $path) {
            foreach ($folders[dirname($path).'/'] as $n) {
                $shown[$n][$path] = true;
            }
        }

        return array_map(static function (array $paths): array {
            ksort($paths);

            return array_slice(array_map(strval(...), array_keys($paths)), 0, self::MOST);
        }, $shown);
    }

    /** @return list<string> paths that a pattern can mean, unless it means a whole folder */
    private static function exact(string $pattern): array
    {
        return match (true) {
            basename($pattern) === '*' => [],
            str_ends_with($pattern, '.*') => array_map(
                static fn (string $ending): string => substr($pattern, 0, -1).$ending,
                self::ENDINGS,
            ),
            default => [$pattern],
        };
    }

    /**
     * @param  string  $is in SQL, of a file
     * @param  list<array-key>  $values
     * @return list<string>
     */
    private function paths(string $is, array $values): array
    {
        $table = $this->reading === null
            ? 'files where site_id = ?'
            : 'staged_files where reading_id = ? and size >= 0';
        $rows = DB::select(
            "select path from $table and $is = any(cast(? as text[]))",
            [$this->reading ?? $this->site, Sql::texts(array_map(strval(...), $values))],
        );

        return array_values(array_map(static fn (stdClass $row): string => (string) $row->path, $rows));
    }
}
