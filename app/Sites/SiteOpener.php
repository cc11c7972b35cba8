<?php

declare(strict_types=1);

namespace App\Sites;

use App\Models\Site;
use League\Flysystem\Filesystem;
use League\Flysystem\Local\LocalFilesystemAdapter;
use League\Flysystem\UnixVisibility\PortableVisibilityConverter;
use League\Flysystem\Visibility;
use Ylema\Sites\SourceUnavailable;

/** Opens the ports of a site from its settings. Nothing is connected before it is used. */
final class SiteOpener
{
    /** @throws FieldMapError|SourceUnavailable */
    public function open(Site $site): OpenSite
    {
        $map = FieldMap::parse($site->field_map);
        $connection = $site->connection;
        $folder = $connection['folder'];
        if (! is_dir($folder)) {
            throw new SourceUnavailable("The folder of the site's files ($folder) is not there. Mount or restore it, then try again.");
        }

        return new OpenSite(
            $site->id,
            $map,
            $site->addresses(),
            new PdoContentSource($map, $connection['dsn'], $connection['user'], $connection['password']),
            new FlysystemStore(new Filesystem(new LocalFilesystemAdapter($folder, new PortableVisibilityConverter(0o664, 0o600, 0o775, 0o700, Visibility::PUBLIC), LOCK_EX)), $map->mediaFolders),
        );
    }
}
