<?php

declare(strict_types=1);

namespace App\Sites;

use App\Bytes\Attributes;
use App\Bytes\Part;
use App\Sites\Remote\KeepsAttributes;
use League\Flysystem\FileAttributes;
use League\Flysystem\Filesystem;
use League\Flysystem\FilesystemAdapter;
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
 * A site's files in an object store or on another machine, behind Flysystem. In an object store, modes and owners are
 * its own affair.
 */
final readonly class FlysystemStore implements MediaStore
{
    /** Permission bits of a file that replaces none. */
    private const USUAL = 0o664;

    /** @param  list<string>  $folders below the root, each ending in `/` */
    public function __construct(
        private FilesystemOperator $files,
        private array $folders,
        private ?KeepsAttributes $attributes = null,
    ) {
    }

    /** @param  list<string>  $folders */
    public static function of(FilesystemAdapter $adapter, array $folders): self
    {
        return new self(
            // What an object lets whom do is the bucket's affair; not every store would say.
            new Filesystem($adapter, ['retain_visibility' => false]),
            $folders,
            $adapter instanceof KeepsAttributes ? $adapter : null,
        );
    }

    public function files(): iterable
    {
        try {
            foreach ($this->folders as $folder) {
                /** @var StorageAttributes $entry */
                foreach ($this->files->listContents(rtrim($folder, '/'), true) as $entry) {
                    if ($entry instanceof FileAttributes && ! Part::is($entry->path())) {
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

            $as = $this->attributes?->attributes($path);

            return new FileState(
                hash_final($hash),
                $size,
                $as->modified ?? $this->files->lastModified($path),
                $as?->mode,
                $as?->owner,
            );
        } catch (FilesystemException $e) {
            throw $this->unavailable($e);
        }
    }

    public function write(string $path, string $bytes, ?FileState $as = null): void
    {
        $beside = Part::beside($path);
        try {
            $this->files->write($beside, $bytes);
            if ($this->attributes !== null) {
                $old = $this->attributes->attributes($path);
                $this->attributes->putOn($beside, new Attributes(
                    $as->mode ?? $old->mode ?? self::USUAL,
                    $as->owner ?? $old?->owner,
                    $as?->modified,
                ));
            }
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
                        Part::is($entry->path())
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
