<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Sites\FileMissing;
use Ylema\Sites\FileState;
use Ylema\Sites\MediaStore;
use Ylema\Sites\StoredFile;
use Ylema\Sites\UnreadFile;
use Ylema\Sites\WriteRefused;

/** Several stores as one: each holds what lies at an address of its own, below the site's root. */
final readonly class MountedStore implements MediaStore, OnThisMachine
{
    /** @param  non-empty-array<string, MediaStore>  $stores the start of paths, ending in `/` or empty → store */
    public function __construct(private array $stores)
    {
    }

    public function files(): iterable
    {
        foreach ($this->stores as $at => $store) {
            foreach ($store->files() as $file) {
                // What lies under another address there is covered by that one.
                if ($this->mount($at.$file->path)[0] !== (string) $at) {
                    continue;
                }
                yield $file instanceof StoredFile
                    ? new StoredFile($at.$file->path, $file->size, $file->modified)
                    : new UnreadFile($at.$file->path, $file->why);
            }
        }
    }

    public function read(string $path): string
    {
        [, $store, $own] = $this->mount($path);
        try {
            return $store->read($own);
        } catch (FileMissing) {
            throw FileMissing::at($path);
        }
    }

    public function exists(string $path): bool
    {
        [, $store, $own] = $this->mount($path);

        return $store->exists($own);
    }

    public function state(string $path): ?FileState
    {
        [, $store, $own] = $this->mount($path);

        return $store->state($own);
    }

    public function write(string $path, string $bytes, ?FileState $as = null): void
    {
        [, $store, $own] = $this->mount($path);
        $store->write($own, $bytes, $as);
    }

    public function move(string $from, string $to): void
    {
        [$at, $store, $own] = $this->mount($from);
        [$there, $other, $target] = $this->mount($to);
        if ($at === $there) {
            $store->move($own, $target);

            return;
        }
        if ($other->exists($target)) {
            throw new WriteRefused("\"$to\"", 'something lies there already');
        }
        // From one store to another it is a copy that is read back before the old one goes.
        $state = $store->state($own) ?? throw FileMissing::at($from);
        $other->write($target, $store->read($own), $state);
        if ($other->state($target)?->sha256 !== $state->sha256) {
            $other->delete($target);
            throw WriteRefused::notReadBack("\"$to\"", 'The file stays where it was.');
        }
        $store->delete($own);
    }

    public function delete(string $path): void
    {
        [, $store, $own] = $this->mount($path);
        $store->delete($own);
    }

    public function sweep(array $paths): void
    {
        $each = [];
        foreach ($paths as $path) {
            [$at, , $own] = $this->mount($path);
            $each[$at][] = $own;
        }
        foreach ($each as $at => $own) {
            $this->stores[$at]->sweep($own);
        }
    }

    public function fileAt(string $path): ?string
    {
        [, $store, $own] = $this->mount($path);

        return $store instanceof OnThisMachine ? $store->fileAt($own) : null;
    }

    /** @return array{string, MediaStore, string} where the store begins, the store, and the path in it */
    private function mount(string $path): array
    {
        $best = '';
        foreach (array_keys($this->stores) as $at) {
            if (str_starts_with($path, (string) $at) && strlen((string) $at) >= strlen($best)) {
                $best = (string) $at;
            }
        }
        $store = $this->stores[$best] ?? throw new WriteRefused("\"$path\"", 'no folder of the site is served there');

        return [$best, $store, substr($path, strlen($best))];
    }
}
