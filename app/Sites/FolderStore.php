<?php

declare(strict_types=1);

namespace App\Sites;

use Generator;
use Ylema\Addresses\Resolver;
use Ylema\Sites\FileMissing;
use Ylema\Sites\FileState;
use Ylema\Sites\MediaStore;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\StoredFile;
use Ylema\Sites\UnreadFile;
use Ylema\Sites\WriteRefused;

/**
 * A site's files in a folder of this machine. Flysystem knows neither owners nor times nor links, and a rewrite must
 * lose none of them, so this adapter asks the file system itself.
 */
final class FolderStore implements MediaStore, OnThisMachine
{
    /** Files that a write left beside their target; they are never part of the site. */
    private const BESIDE = '.ylema-part';

    /** @var array<string, true> folders that are known to lie inside of the root, as long as this store is open */
    private array $inside = [];

    /**
     * @param  list<string>  $folders below the root, each ending in `/`; empty for the root itself
     * @param  bool  $holdsPages whether pages and code lie at the root as well, which are no media
     */
    public function __construct(
        private readonly string $root,
        private readonly array $folders,
        private readonly bool $holdsPages = true,
    ) {
    }

    public function files(): iterable
    {
        // What lies at the root covers all the others.
        foreach (in_array('', $this->folders, true) ? [''] : $this->folders as $folder) {
            $path = rtrim($folder, '/');
            if (is_dir($this->at($path))) {
                yield from $this->under($path, []);
            }
        }
    }

    public function read(string $path): string
    {
        $bytes = $this->attempt(
            fn (): string|false => $this->isPlain($path) ? file_get_contents($this->at($path)) : false,
        );

        return is_string($bytes) ? $bytes : throw $this->gone($path);
    }

    public function exists(string $path): bool
    {
        return $this->isThere($path);
    }

    public function fileAt(string $path): ?string
    {
        $file = $this->place($path);

        return is_link($file) ? null : $file;
    }

    public function state(string $path): ?FileState
    {
        if (! $this->isThere($path)) {
            $this->needRoot();

            return null;
        }
        $file = $this->at($path);
        if (! $this->isPlain($path)) {
            throw new SourceUnavailable(
                "\"$path\" is no plain file, or a link that leads out of the site's folder, so it is not touched. Put "
                    .'a file in its place.',
                where: $path,
            );
        }
        clearstatcache(true, $file);
        $hash = $this->attempt(static fn (): string|false => hash_file('sha256', $file));
        $stat = $this->attempt(static fn (): array|false => stat($file));
        if (! is_string($hash) || ! is_array($stat)) {
            throw new SourceUnavailable(
                "The file \"$path\" cannot be read ("
                    .$this->why()
                    .'). Give this user the right to read it, then try again.',
                where: $path,
                why: $this->why(),
            );
        }

        return new FileState(
            $hash,
            (int) $stat['size'],
            (int) $stat['mtime'],
            $stat['mode'] & 0o7777,
            "{$stat['uid']}:{$stat['gid']}",
        );
    }

    public function write(string $path, string $bytes, ?FileState $as = null): void
    {
        $this->needRoot();
        $target = $this->place($path);
        if (is_link($target)) {
            // A link keeps leading where it leads; what it leads to is written.
            $target = $this->isReallyInside($target)
                ? (string) realpath($target)
                : throw new WriteRefused("\"$path\"", 'it is a link that leads out of the site\'s folder, or nowhere');
        }
        $old = is_file($target) ? $this->attempt(static fn (): array|false => stat($target)) : false;
        $folder = dirname($target);
        if (! is_dir($folder) && $this->attempt(static fn (): bool => mkdir($folder, 0o775, true)) !== true) {
            throw new WriteRefused("\"$path\"", 'its folder cannot be made ('.$this->why().')');
        }
        // A name of its own, short enough wherever the target's is: two writers never write into each other's part.
        $part = $folder.'/'.bin2hex(random_bytes(6)).self::BESIDE;
        try {
            $handle = $this->attempt(static fn () => fopen($part, 'xb'));
            $written = $this->attempt(static fn (): int|false => self::put($handle, $bytes));
            if ($written !== strlen($bytes)) {
                $went = 'only '.(int) $written.' of '.strlen($bytes).' bytes went in';
                $why = $this->why() === '' ? $went : $this->why();
                throw new WriteRefused(
                    "\"$path\"",
                    "$why. Make room on the disk or give this user the right to write there, then try again",
                );
            }
            $mode = $as->mode ?? (is_array($old) ? $old['mode'] & 0o7777 : 0o664);
            $this->attempt(static fn (): bool => chmod($part, $mode));
            $owner = $as->owner ?? (is_array($old) ? "{$old['uid']}:{$old['gid']}" : null);
            if ($owner !== null) {
                [$user, $group] = array_map(intval(...), explode(':', $owner.':'));
                // Only root may give files away; for all others the owner is who writes, and the group where it may be.
                $this->attempt(static fn (): bool => fileowner($part) === $user || chown($part, $user));
                $this->attempt(static fn (): bool => filegroup($part) === $group || chgrp($part, $group));
                $this->attempt(static fn (): bool => chmod($part, $mode));
            }
            if ($as?->modified !== null) {
                $this->attempt(static fn (): bool => touch($part, $as->modified));
            }
            if ($this->attempt(static fn (): bool => rename($part, $target)) !== true) {
                throw new WriteRefused("\"$path\"", $this->why());
            }
        } finally {
            if (is_resource($handle ?? null)) {
                fclose($handle);
            }
            if (is_file($part)) {
                $this->attempt(static fn (): bool => unlink($part));
            }
        }
        clearstatcache(true, $target);
    }

    public function move(string $from, string $to): void
    {
        if (! $this->isThere($from)) {
            throw $this->gone($from);
        }
        if ($this->isThere($to)) {
            throw new WriteRefused("\"$to\"", 'something lies there already');
        }
        $source = $this->place($from);
        $target = $this->place($to);
        $folder = dirname($target);
        if (! is_dir($folder) && $this->attempt(static fn (): bool => mkdir($folder, 0o775, true)) !== true) {
            throw new WriteRefused("\"$to\"", 'its folder cannot be made ('.$this->why().')');
        }
        if ($this->attempt(static fn (): bool => rename($source, $target)) !== true) {
            throw new WriteRefused("\"$to\"", $this->why());
        }
    }

    public function delete(string $path): void
    {
        if (! $this->isThere($path)) {
            return;
        }
        $file = $this->place($path);
        if ($this->attempt(static fn (): bool => unlink($file)) !== true) {
            throw new WriteRefused("\"$path\"", $this->why());
        }
    }

    public function sweep(array $paths): void
    {
        foreach (array_unique(array_map(fn (string $path): string => dirname($this->at($path)), $paths)) as $folder) {
            $names = is_dir($folder) ? $this->attempt(static fn (): array|false => scandir($folder)) : [];
            foreach (is_array($names) ? $names : [] as $name) {
                if (str_ends_with($name, self::BESIDE)) {
                    $this->attempt(static function () use ($folder, $name): void {
                        $handle = fopen("$folder/$name", 'r+b');
                        if ($handle !== false && flock($handle, LOCK_EX | LOCK_NB)) {
                            unlink("$folder/$name");
                        }
                    });
                }
            }
        }
    }

    /**
     * On the disk before it takes the place of what is there: a machine that loses its power has the one or the other.
     */
    private static function put(mixed $handle, string $bytes): int|false
    {
        // Locked as long as somebody writes it; a part without a lock is one that a killed process left.
        if (! is_resource($handle) || ! flock($handle, LOCK_EX | LOCK_NB)) {
            return false;
        }
        $written = fwrite($handle, $bytes);
        $synced = $written === strlen($bytes) && fflush($handle) && fsync($handle);

        return $synced ? $written : false;
    }

    /**
     * @param  array<string, true>  $within real paths of the folders that lead here, so that a link into one of them
     *       ends
     * @return Generator<StoredFile|UnreadFile>
     */
    private function under(string $folder, array $within): Generator
    {
        $real = realpath($this->at($folder));
        if ($real === false || isset($within[$real])) {
            return;
        }
        $within[$real] = true;
        $entries = $this->attempt(fn (): array|false => scandir($this->at($folder)));
        if (! is_array($entries)) {
            yield new UnreadFile(
                $folder,
                "The folder cannot be listed ({$this->why()}). Give this user the right to read it.",
            );

            return;
        }
        foreach ($entries as $name) {
            if ($name === '.' || $name === '..' || str_ends_with((string) $name, self::BESIDE)) {
                continue;
            }
            $path = $folder === '' ? (string) $name : "$folder/$name";
            if ($this->isBeside($path, $folder)) {
                continue;
            }
            $file = $this->at($path);
            if (is_link($file) && ! $this->isInside($file)) {
                yield new UnreadFile(
                    $path,
                    is_dir($file) || is_file($file)
                        ? 'It is a link that leads out of the site\'s folder; it was not followed.'
                        : 'It is a link that leads nowhere.',
                );
            } elseif (is_dir($file)) {
                yield from $this->under($path, $within);
            } elseif (is_file($file)) {
                $stat = $this->attempt(static fn (): array|false => stat($file));
                yield is_array($stat)
                    ? new StoredFile($path, (int) $stat['size'], (int) $stat['mtime'])
                    : new UnreadFile($path, "It cannot be looked at ({$this->why()}).");
            } else {
                yield new UnreadFile(
                    $path,
                    'It is no file ('.(filetype($file) ?: 'unknown').'), so it was not opened.',
                );
            }
        }
    }

    /** At the root of a site lie its pages and its code as well, and what tools keep for themselves. */
    private function isBeside(string $path, string $folder): bool
    {
        if (! $this->holdsPages || ! in_array('', $this->folders, true)) {
            return false;
        }

        return is_dir($this->at($path)) && ! is_link($this->at($path))
            ? str_starts_with(basename($path), '.')
                    || ($folder === '' && in_array($path, ['node_modules', 'vendor'], true))
            : ! Resolver::hasMediaType($path) && ! Resolver::isNamedByHash($path);
    }

    private function isThere(string $path): bool
    {
        clearstatcache(true, $this->at($path));

        return is_link($this->at($path)) || file_exists($this->at($path));
    }

    /** A plain file, or a link to one that stays inside the root. */
    private function isPlain(string $path): bool
    {
        $file = $this->at($path);

        return is_file($file) && $this->isInside($file);
    }

    private function isInside(string $file): bool
    {
        if (! is_link($file)) {
            // A file of its own is where its folder is, and a folder has many.
            $folder = dirname($file);
            if (isset($this->inside[$folder])) {
                return true;
            }
            $isInside = $this->isReallyInside($folder);
            if ($isInside) {
                $this->inside[$folder] = true;
            }

            return $isInside;
        }

        return $this->isReallyInside($file);
    }

    /**
     * Where a path lies at this very moment, its folder looked up anew: one that was a folder when a plan was made may
     * be a link by now, and what lies behind it is none of the site's.
     *
     * @throws WriteRefused
     */
    private function place(string $path): string
    {
        $file = $this->at($path);
        clearstatcache(true);
        $folder = dirname($file);
        $below = '';
        while (! file_exists($folder) && ! is_link($folder) && strlen($folder) > 1) {
            $below = '/'.basename($folder).$below;
            $folder = dirname($folder);
        }
        if (! $this->isReallyInside($folder)) {
            $this->needRoot();
            throw new WriteRefused("\"$path\"", 'its folder is a link that leads out of the site\'s folder');
        }

        return realpath($folder)."$below/".basename($file);
    }

    private function isReallyInside(string $file): bool
    {
        $real = realpath($file);
        $root = realpath($this->root);

        return $real !== false && $root !== false && str_starts_with($real.'/', rtrim($root, '/').'/');
    }

    private function at(string $path): string
    {
        if (str_contains($path, "\0") || in_array('..', explode('/', $path), true)) {
            throw new WriteRefused('"'.strtr($path, ["\0" => '␀']).'"', 'it is no path below the site\'s folder');
        }

        return rtrim($this->root, '/').'/'.ltrim($path, '/');
    }

    private function gone(string $path): FileMissing|SourceUnavailable
    {
        $this->needRoot();

        return $this->isThere($path)
            ? new SourceUnavailable(
                "The file \"$path\" cannot be read ("
                    .($this->why() === '' ? 'it is no plain file inside the site\'s folder' : $this->why())
                    .'). Give this user the right to read it, then try again.',
                where: $path,
                why: $this->why(),
            )
            : FileMissing::at($path);
    }

    /** @throws SourceUnavailable when the whole folder is away, which says nothing about the files in it */
    private function needRoot(): void
    {
        if (! is_dir($this->root)) {
            throw new SourceUnavailable(
                "The folder of the site's files ({$this->root}) is not there. Mount or restore it, then try again.",
                where: $this->root,
            );
        }
    }

    private string $warning = '';

    /**
     * PHP says in a warning what the file system said to it.
     *
     * @template T
     *
     * @param  callable(): T  $do
     * @return T
     */
    private function attempt(callable $do): mixed
    {
        $this->warning = '';
        set_error_handler(function (int $level, string $message): bool {
            $this->warning = $message;

            return true;
        });
        try {
            return $do();
        } finally {
            restore_error_handler();
        }
    }

    private function why(): string
    {
        return lcfirst(trim(preg_replace('~^\w+\(.*?\): (?:Failed to open stream: )?~s', '', $this->warning) ?? ''));
    }
}
