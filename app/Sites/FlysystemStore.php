<?php

declare(strict_types=1);

namespace App\Sites;

use League\Flysystem\FileAttributes;
use League\Flysystem\FilesystemException;
use League\Flysystem\FilesystemOperator;
use League\Flysystem\StorageAttributes;
use League\Flysystem\UnableToMoveFile;
use League\Flysystem\UnableToReadFile;
use League\Flysystem\UnableToWriteFile;
use Ylema\Sites\FileMissing;
use Ylema\Sites\FileState;
use Ylema\Sites\MediaStore;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\StoredFile;
use Ylema\Sites\WriteRefused;

/**
 * A site's files in an object store or on another machine, behind Flysystem. Modes and owners are the store's own
 * affair.
 */
final readonly class FlysystemStore implements MediaStore
{
    /** Files that a write left beside their target; they are never part of the site. */
    private const BESIDE = '.ylema-part';

    /** @param  list<string>  $folders below the root, each ending in `/` */
    public function __construct(private FilesystemOperator $files, private array $folders)
    {
    }

    public function files(): iterable
    {
        try {
            foreach ($this->folders as $folder) {
                /** @var StorageAttributes $entry */
                foreach ($this->files->listContents(rtrim($folder, '/'), true) as $entry) {
                    if ($entry instanceof FileAttributes && ! str_ends_with($entry->path(), self::BESIDE)) {
                        yield new StoredFile($entry->path(), $entry->fileSize() ?? 0, $entry->lastModified() ?? 0);
                    }
                }
            }
        } catch (FilesystemException $e) {
            throw $this->unavailable($e);
        }
    }

    public function read(string $path): string
    {
        try {
            return $this->files->read($path);
        } catch (UnableToReadFile $e) {
            throw $this->exists($path) ? $this->unavailable($e) : FileMissing::at($path);
        } catch (FilesystemException $e) {
            throw $this->unavailable($e);
        }
    }

    public function exists(string $path): bool
    {
        try {
            return $this->files->fileExists($path);
        } catch (FilesystemException $e) {
            throw $this->unavailable($e);
        }
    }

    public function state(string $path): ?FileState
    {
        try {
            if (! $this->files->fileExists($path)) {
                return null;
            }
            $stream = $this->files->readStream($path);
            $hash = hash_init('sha256');
            $size = hash_update_stream($hash, $stream);

            return new FileState(hash_final($hash), $size, $this->files->lastModified($path));
        } catch (FilesystemException $e) {
            throw $this->unavailable($e);
        }
    }

    public function write(string $path, string $bytes, ?FileState $as = null): void
    {
        $beside = $path.'.'.bin2hex(random_bytes(4)).self::BESIDE;
        try {
            $this->files->write($beside, $bytes);
            $this->files->move($beside, $path);
        } catch (UnableToWriteFile|UnableToMoveFile $e) {
            throw new WriteRefused("\"$path\"", $e->getMessage(), $e);
        } catch (FilesystemException $e) {
            throw $this->unavailable($e);
        }
    }

    public function move(string $from, string $to): void
    {
        try {
            if (! $this->files->fileExists($from)) {
                throw FileMissing::at($from);
            }
            if ($this->files->fileExists($to)) {
                throw new WriteRefused("\"$to\"", 'something lies there already');
            }
            $this->files->move($from, $to);
        } catch (FilesystemException $e) {
            throw new WriteRefused("\"$to\"", $e->getMessage(), $e);
        }
    }

    public function delete(string $path): void
    {
        try {
            $this->files->delete($path);
        } catch (FilesystemException $e) {
            throw new WriteRefused("\"$path\"", $e->getMessage(), $e);
        }
    }

    public function sweep(array $paths): void
    {
        try {
            foreach (array_unique(array_map(dirname(...), $paths)) as $folder) {
                foreach ($this->files->listContents($folder === '.' ? '' : $folder) as $entry) {
                    // An object store has no locks; what is a day old is nobody's any more.
                    if (
                        str_ends_with($entry->path(), self::BESIDE)
                        && ($entry->lastModified() ?? PHP_INT_MAX) < time() - 86_400
                    ) {
                        $this->files->delete($entry->path());
                    }
                }
            }
        } catch (FilesystemException) {
            // Tidiness; the next change tries again.
        }
    }

    private function unavailable(FilesystemException $e): SourceUnavailable
    {
        return new SourceUnavailable("The site's files cannot be reached or written: {$e->getMessage()}", previous: $e);
    }
}
