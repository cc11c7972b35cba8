<?php

declare(strict_types=1);

namespace App\Sites\Remote;

use League\Flysystem\Config;
use League\Flysystem\PathPrefixer;
use League\Flysystem\PhpseclibV3\SftpAdapter;
use League\Flysystem\UnableToListContents;
use League\Flysystem\UnableToMoveFile;

/**
 * Files over SFTP, in which a file takes the place of another in one step: SFTP's own rename refuses that, and to
 * delete first would leave nothing there when the connection ends in between.
 */
final class SftpFiles extends SftpAdapter
{
    private readonly PathPrefixer $paths;

    public function __construct(private readonly SftpConnection $connection, string $folder)
    {
        parent::__construct($connection, $folder);
        $this->paths = new PathPrefixer($folder);
    }

    /** A folder that is not there is no empty one: what lies in it would count as gone. */
    public function listContents(string $path, bool $deep): iterable
    {
        $root = $this->paths->prefixPath('');
        if (! $this->connection->provideConnection()->is_dir($root === '' ? '.' : $root)) {
            throw UnableToListContents::atLocation($path, $deep, new CannotConnect("There is no folder $root."));
        }

        return parent::listContents($path, $deep);
    }

    /** By OpenSSH's "posix-rename" (PROTOCOL, 4.3), which other servers speak as well. */
    public function move(string $source, string $destination, Config $config): void
    {
        $sftp = $this->connection->provideConnection();
        [$from, $to] = [$this->paths->prefixPath($source), $this->paths->prefixPath($destination)];
        if (! $sftp->is_dir(dirname($to)) && ! $sftp->mkdir(dirname($to), 0755, true)) {
            throw UnableToMoveFile::because('its folder cannot be made', $source, $destination);
        }
        if ($sftp->posix_rename($from, $to)) {
            return;
        }
        // Where nothing lies in the way, the plain one will do.
        if ($sftp->file_exists($to) || ! $sftp->rename($from, $to)) {
            $why = 'the server does not put a file in place of another in one step ('.$sftp->getLastSFTPError().')';
            throw UnableToMoveFile::because($why, $source, $destination);
        }
    }
}
