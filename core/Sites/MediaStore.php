<?php

declare(strict_types=1);

namespace Ylema\Sites;

/** Where a site's files lie. Paths are below the site's root, with `/`, without a leading one. */
interface MediaStore
{
    /**
     * @return iterable<StoredFile|UnreadFile>
     *
     * @throws SourceUnavailable
     */
    public function files(): iterable;

    /** @throws FileMissing|SourceUnavailable */
    public function read(string $path): string;

    public function exists(string $path): bool;

    /**
     * What lies at a path now; its bytes are hashed without being held in memory.
     *
     * @return FileState|null null where nothing lies
     *
     * @throws SourceUnavailable
     */
    public function state(string $path): ?FileState;

    /**
     * Writes beside the file and renames over it, so that a visitor gets the old bytes or the new, never half. Mode and
     * owner stay as the old file has them.
     *
     * @param  FileState|null  $as mode, owner and time that the file shall have, where the store can keep them and they
     *       are not null
     *
     * @throws WriteRefused|SourceUnavailable when the store refuses; the old bytes are still there then
     */
    public function write(string $path, string $bytes, ?FileState $as = null): void;

    /**
     * @throws FileMissing|WriteRefused|SourceUnavailable when the store refuses, or something lies at the target;
     * nothing has moved then
     */
    public function move(string $from, string $to): void;

    /** @throws WriteRefused|SourceUnavailable */
    public function delete(string $path): void;

    /**
     * Takes away what writes of killed processes left beside some paths; what somebody is still writing stays.
     *
     * @param  list<string>  $paths
     */
    public function sweep(array $paths): void;
}
