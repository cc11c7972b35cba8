<?php

declare(strict_types=1);

namespace App\Sites;

use App\Models\Site;

/** Which other sites keep files in the same places, so that what one of them does not use the other may. */
final readonly class SharedFiles
{
    /**
     * @return list<array{site: int, name: string, mine: string, theirs: string}> what begins with `mine` at this site
     *     begins with `theirs` at that one; both empty or ending in a slash
     */
    public static function of(Site $site): array
    {
        $shared = [];
        $own = self::places($site);
        foreach (Site::query()->where('id', '<>', $site->id ?? 0)->orderBy('id')->get() as $other) {
            foreach (self::places($other) as $theirs => $there) {
                foreach ($own as $mine => $here) {
                    $isWithin = str_starts_with($there, $here);
                    if ($isWithin || str_starts_with($here, $there)) {
                        $shared[] = [
                            'site' => $other->id,
                            'name' => $other->name,
                            'mine' => $mine.($isWithin ? substr($there, strlen($here)) : ''),
                            'theirs' => $theirs.($isWithin ? '' : substr($here, strlen($there))),
                        ];
                    }
                }
            }
        }

        return $shared;
    }

    /** @return array<string, string> where below the site's root files are → a name of that place, ending in a slash */
    private static function places(Site $site): array
    {
        $connection = $site->connection;
        $places = ['' => self::place($connection)];
        foreach ($connection['roots'] ?? [] as $root) {
            $places[trim($root['at'], '/').'/'] = self::place($root);
        }

        return array_filter($places, static fn (string $place): bool => $place !== '');
    }

    /** @param  array{folder: string, remote?: array<string, string>}  $where */
    private static function place(array $where): string
    {
        $remote = $where['remote'] ?? null;
        if ($remote === null) {
            $folder = $where['folder'] === '' ? '' : (realpath($where['folder']) ?: $where['folder']);

            return $folder === '' ? '' : rtrim($folder, '/').'/';
        }
        $at = array_map(
            static fn (string $line): string => trim($remote[$line] ?? '', '/'),
            ['kind', 'host', 'port', 'endpoint', 'bucket', 'folder', 'prefix'],
        );

        return 'remote:'.implode("\0", array_slice($at, 0, 5))."\0".rtrim("$at[5]$at[6]", '/').'/';
    }
}
