<?php

declare(strict_types=1);

namespace App\Sites;

use App\Bytes\Attributes;
use App\Bytes\Part;
use App\Bytes\Root;
use App\Bytes\Warnings;
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
    /** Permission bits of a file that replaces none. */
    private const USUAL = 0o664;

    private readonly Root $base;

    private readonly Warnings $warnings;

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
        $this->base = new Root($root, 'the site\'s folder');
        $this->warnings = new Warnings();
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
            $target = $this->base->holds($target)
                ? (string) realpath($target)
                : throw new WriteRefused("\"$path\"", 'it is a link that leads out of the site\'s folder, or nowhere');
        }
        $as = Attributes::of($as, $target, self::USUAL);
        Part::write($target, $bytes, $as, "\"$path\"", hash('sha256', $bytes));
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
            throw new WriteRefused("\"$to\"", "its folder cannot be made: {$this->warnings->advice()}");
        }
        if ($this->attempt(static fn (): bool => rename($source, $target)) !== true) {
            throw new WriteRefused("\"$to\"", $this->warnings->advice());
        }
    }

    public function delete(string $path): void
    {
        if (! $this->isThere($path)) {
            return;
        }
        $file = $this->place($path);
        if ($this->attempt(static fn (): bool => unlink($file)) !== true) {
            throw new WriteRefused("\"$path\"", $this->warnings->advice());
        }
    }

    public function sweep(array $paths): void
    {
        foreach (array_unique(array_map(fn (string $path): string => dirname($this->at($path)), $paths)) as $folder) {
            Part::sweep($folder);
        }
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
            if ($name === '.' || $name === '..' || Part::is((string) $name)) {
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
            $isInside = $this->base->holds($folder);
            if ($isInside) {
                $this->inside[$folder] = true;
            }

            return $isInside;
        }

        return $this->base->holds($file);
    }

    /** Where a path lies at this very moment, its folder looked up anew. */
    private function place(string $path): string
    {
        $this->needRoot();

        return $this->base->place($path);
    }

    private function at(string $path): string
    {
        return $this->base->at($path);
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

    /**
     * @template T
     *
     * @param  callable(): T  $do
     * @return T
     */
    private function attempt(callable $do): mixed
    {
        return $this->warnings->during($do);
    }

    private function why(): string
    {
        return $this->warnings->why();
    }
}
