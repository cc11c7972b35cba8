<?php

declare(strict_types=1);

namespace App\Sites\Remote;

use App\Bytes\Attributes;
use League\Flysystem\Config;
use League\Flysystem\PathPrefixer;
use League\Flysystem\PhpseclibV3\SftpAdapter;
use League\Flysystem\UnableToDeleteFile;
use League\Flysystem\UnableToListContents;
use League\Flysystem\UnableToMoveFile;
use League\Flysystem\UnableToWriteFile;

/**
 * Files over SFTP, in which a file takes the place of another in one step: SFTP's own rename refuses that, and to
 * delete first would leave nothing there when the connection ends in between.
 */
final class SftpFiles extends SftpAdapter implements KeepsAttributes
{
    /** Links that are followed on the way to a file, as Linux does (path_resolution(7)). */
    private const LINKS = 40;

    private readonly PathPrefixer $paths;

    private ?string $root = null;

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

    public function write(string $path, string $contents, Config $config): void
    {
        if ($this->leadsOut($path)) {
            throw UnableToWriteFile::atLocation($path, 'its folder is a link that leads out of the site\'s folder');
        }
        parent::write($path, $contents, $config);
    }

    public function delete(string $path): void
    {
        if ($this->leadsOut($path)) {
            throw UnableToDeleteFile::atLocation($path, 'its folder is a link that leads out of the site\'s folder');
        }
        parent::delete($path);
    }

    public function attributes(string $path): ?Attributes
    {
        $is = $this->connection->provideConnection()->stat($this->paths->prefixPath($path));
        if (! is_array($is) || ! is_int($is['mode'] ?? null)) {
            return null;
        }
        $owner = isset($is['uid'], $is['gid']) ? "{$is['uid']}:{$is['gid']}" : null;

        return new Attributes($is['mode'] & 0o7777, $owner, is_int($is['mtime'] ?? null) ? $is['mtime'] : null);
    }

    public function putOn(string $path, Attributes $as): void
    {
        $sftp = $this->connection->provideConnection();
        $file = $this->paths->prefixPath($path);
        $now = $sftp->stat($file);
        $now = is_array($now) ? $now : [];
        if ($as->owner !== null && $as->owner !== ($now['uid'] ?? '').':'.($now['gid'] ?? '')) {
            [$user, $group] = array_map(intval(...), explode(':', $as->owner.':'));
            $sftp->chown($file, $user);
            $sftp->chgrp($file, $group);
        }
        $sftp->chmod($as->mode, $file);
        if ($as->modified !== null) {
            $sftp->touch($file, $as->modified, $as->modified);
        }
    }

    /** By OpenSSH's "posix-rename" (PROTOCOL, 4.3), which other servers speak as well. */
    public function move(string $source, string $destination, Config $config): void
    {
        $sftp = $this->connection->provideConnection();
        [$from, $to] = [$this->paths->prefixPath($source), $this->paths->prefixPath($destination)];
        foreach ([$source, $destination] as $path) {
            if ($this->leadsOut($path)) {
                $why = 'its folder is a link that leads out of the site\'s folder';
                throw UnableToMoveFile::because($why, $source, $destination);
            }
        }
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

    /** Asked at the moment of writing, as on this machine: what was a folder may be a link by now. */
    private function leadsOut(string $path): bool
    {
        $root = rtrim($this->paths->prefixPath(''), '/');
        // Where the root leads its owner has said; what lies below it is asked each time.
        $real = $this->root ??= $this->resolved($root === '' ? '.' : $root);
        $folder = $this->resolved(dirname($this->paths->prefixPath($path)));

        return $real === null || $folder === null || ! str_starts_with("$folder/", rtrim($real, '/').'/');
    }

    /** @return string|null the path with all links followed, whether anything is there or not; null for a circle */
    private function resolved(string $path): ?string
    {
        $sftp = $this->connection->provideConnection();
        $todo = explode('/', $path);
        $there = str_starts_with($path, '/') ? '' : rtrim((string) $sftp->pwd(), '/');
        $links = 0;
        while ($todo !== []) {
            $name = array_shift($todo);
            if ($name === '' || $name === '.') {
                continue;
            }
            if ($name === '..') {
                $there = rtrim(dirname($there === '' ? '/' : $there), '/');

                continue;
            }
            $leads = $sftp->is_link("$there/$name") ? $sftp->readlink("$there/$name") : false;
            if (! is_string($leads)) {
                $there .= "/$name";

                continue;
            }
            if (++$links > self::LINKS) {
                return null;
            }
            $there = str_starts_with($leads, '/') ? '' : $there;
            $todo = [...explode('/', $leads), ...$todo];
        }

        return $there === '' ? '/' : $there;
    }
}
