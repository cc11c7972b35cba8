<?php

declare(strict_types=1);

namespace App\Connect;

use App\Models\Site;
use App\Sites\FieldMap;
use App\Sites\SiteOpener;
use Ylema\Connect\FileLookup;
use Ylema\Connect\Gap;
use Ylema\Connect\Gaps;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\StoredFile;

/** What a map leaves out: columns that hold addresses or ids of media, and that no line of it reads. */
final readonly class Coverage
{
    public function __construct(private SiteOpener $opener)
    {
    }

    /**
     * @return list<Gap> the one with most files first
     *
     * @throws SourceUnavailable
     */
    public function of(Site $site): array
    {
        $connection = $site->connection;
        if ($connection['dsn'] === '') {
            return [];
        }
        $map = FieldMap::parse($site->field_map);
        $read = [];
        foreach ($map->kinds as $kind) {
            foreach ($kind->fields as $column => $field) {
                foreach ($field->by === null ? [''] : array_keys($field->rules) as $name) {
                    $read["$kind->table.$column".($name === '' ? '' : ".$name")] = true;
                }
            }
            foreach ($kind->owners as $owner) {
                $read["$kind->table.$owner->column"] = true;
            }
        }
        $outside = array_filter([$map->media?->table, $map->media?->sizes?->table, $map->redirects['table'] ?? null]);
        $everything = FieldMap::parse("version: 1\nfiles: { folders: [.] }\nrecords: {}");
        $paths = (function () use ($connection, $everything) {
            foreach ($this->opener->files($connection, $everything)->files() as $file) {
                if ($file instanceof StoredFile) {
                    yield $file->path;
                }
            }
        })();

        return (new Gaps(
            new DbSamples($connection['dsn'], $connection['user'], $connection['password']),
            new FileLookup($paths),
            $site->addresses(),
        ))->beside($read, array_values($outside));
    }
}
