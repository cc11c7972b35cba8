<?php

declare(strict_types=1);

namespace App\Sites;

use League\Flysystem\FileAttributes;
use League\Flysystem\FilesystemException;
use League\Flysystem\FilesystemOperator;
use League\Flysystem\StorageAttributes;
use League\Flysystem\UnableToReadFile;
use Ylema\Sites\FileMissing;
use Ylema\Sites\MediaStore;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\StoredFile;

/** A site's files behind Flysystem: a folder now, an object store or SFTP by another adapter. */
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

    public function write(string $path, string $bytes): void
    {
        $beside = $path.self::BESIDE;
        try {
            $this->files->write($beside, $bytes);
            $this->files->move($beside, $path);
        } catch (FilesystemException $e) {
            throw $this->unavailable($e);
        }
    }

    public function delete(string $path): void
    {
        try {
            $this->files->delete($path);
        } catch (FilesystemException $e) {
            throw $this->unavailable($e);
        }
    }

    private function unavailable(FilesystemException $e): SourceUnavailable
    {
        return new SourceUnavailable("The site's files cannot be reached or written: {$e->getMessage()}", previous: $e);
    }
}
