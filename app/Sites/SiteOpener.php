<?php

declare(strict_types=1);

namespace App\Sites;

use App\Models\Site;
use App\Sites\Remote\RemoteFiles;
use Illuminate\Support\Facades\Storage;
use Ylema\Sites\ContentSource;
use Ylema\Sites\MediaStore;
use Ylema\Sites\SourceUnavailable;

/** Opens the ports of a site from its settings. Nothing is connected before it is used. */
final class SiteOpener
{
    /** Raised when reading itself changes, so that an index made before is made anew. */
    private const READER = 7;

    /** @throws FieldMapError|SourceUnavailable */
    public function open(Site $site): OpenSite
    {
        $map = FieldMap::parse($site->field_map);
        $connection = $site->connection;
        $folders = self::folders($connection);
        $code = $map->code === null
            ? null
            : new CodeFiles(
                $connection['code'] ?? $connection['folder'],
                $map->code,
                $folders,
                self::below($connection['code'] ?? $connection['folder'], $connection['folder']),
            );

        return new OpenSite(
            // A site that is tried before it is kept has no number yet.
            $site->exists ? $site->id : 0,
            $map,
            $site->addresses(),
            $this->content($site, $map),
            $this->files($connection, $map),
            hash('xxh128', serialize([self::READER, $site->field_map, $site->address, $site->former, $site->aliases])),
            $code,
            $connection['dsn'] === ''
                ? null
                : new TablesBeside($map, $connection['dsn'], $connection['user'], $connection['password']),
            new FilesBeside(
                $folders,
                array_merge(...array_column($map->kinds, 'patterns')),
                $connection['content'] ?? $connection['folder'],
                $code,
                self::isElsewhere($connection),
            ),
        );
    }

    /**
     * All folders of this machine in which a site has something.
     *
     * @param  array{folder: string, disk?: string, code?: string, content?: string, remote?: array<string, string>,
     *     roots?: list<array{at: string, folder: string, remote?: array<string, string>}>}  $connection
     * @return list<string>
     */
    private static function folders(array $connection): array
    {
        $folders = [
            isset($connection['disk']) || isset($connection['remote']) ? '' : $connection['folder'],
            $connection['content'] ?? '',
            $connection['code'] ?? '',
        ];
        foreach ($connection['roots'] ?? [] as $root) {
            $folders[] = isset($root['remote']) ? '' : $root['folder'];
        }

        return array_values(array_unique(array_filter($folders, static fn (string $folder): bool => $folder !== '')));
    }

    /** @return string|null where a folder is below another, ending in `/`; null where it is not */
    private static function below(string $folder, string $root): ?string
    {
        [$folder, $root] = array_map(
            static fn (string $path): string => rtrim((string) realpath($path), '/').'/',
            [$folder, $root],
        );

        return $root !== '/' && str_starts_with($folder, $root) ? substr($folder, strlen($root)) : null;
    }

    /**
     * @param  array{disk?: string, remote?: array<string, string>,
     *     roots?: list<array{at: string, folder: string, remote?: array<string, string>}>}  $connection
     */
    private static function isElsewhere(array $connection): bool
    {
        foreach ([$connection, ...$connection['roots'] ?? []] as $where) {
            if (isset($where['disk']) || isset($where['remote'])) {
                return true;
            }
        }

        return false;
    }

    private function content(Site $site, FieldMap $map): ContentSource
    {
        $connection = $site->connection;
        $root = $site->addresses()->now->path;
        $kinds = array_filter($map->kinds, static fn (KindMap $kind): bool => $kind->isOfFiles());
        $files =
            $kinds === [] && $connection['dsn'] !== ''
                ? null
                : new FolderContentSource($map, $connection['content'] ?? $connection['folder'], $root);
        if ($files !== null && $connection['dsn'] === '') {
            return $files;
        }
        $database = new PdoContentSource($map, $connection['dsn'], $connection['user'], $connection['password'], $root);

        return $files === null ? $database : new CombinedSource($database, $files);
    }

    /**
     * @param  array{dsn: string, user: string, password: string, folder: string, disk?: string, code?: string,
     *     content?: string, remote?: array<string, string>,
     *     roots?: list<array{at: string, folder: string, remote?: array<string, string>}>}  $connection
     */
    public function files(array $connection, FieldMap $map): MediaStore
    {
        if (isset($connection['disk'])) {
            return new FlysystemStore(Storage::disk($connection['disk'])->getDriver(), $map->mediaFolders);
        }
        $roots = $connection['roots'] ?? [];
        if ($roots === []) {
            return $this->at($connection, $map->mediaFolders);
        }
        $stores = ['' => $this->at($connection, $map->mediaFolders)];
        foreach ($roots as $root) {
            $at = trim($root['at'], '/').'/';
            $own = [];
            foreach ($map->mediaFolders as $folder) {
                if (str_starts_with($folder, $at) && $folder !== $at) {
                    $own[] = substr($folder, strlen($at));
                } elseif (str_starts_with($at, $folder)) {
                    $own = [''];
                    break;
                }
            }
            $stores[$at] = $this->at($root, $own, false);
        }

        return new MountedStore($stores);
    }

    /**
     * @param  array{folder: string, remote?: array<string, string>}  $where
     * @param  list<string>  $folders
     */
    private function at(array $where, array $folders, bool $holdsPages = true): MediaStore
    {
        return isset($where['remote'])
            ? FlysystemStore::of(RemoteFiles::open($where['remote']), $folders)
            : $this->folder($where['folder'], $folders, $holdsPages);
    }

    /** @param  list<string>  $folders */
    private function folder(string $folder, array $folders, bool $holdsPages = true): FolderStore
    {
        if (! is_dir($folder)) {
            throw new SourceUnavailable(
                "The folder of the site's files ($folder) is not there. Mount or restore it, then try again.",
                where: $folder,
            );
        }

        return new FolderStore($folder, $folders, $holdsPages);
    }
}
