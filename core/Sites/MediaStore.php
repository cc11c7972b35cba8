<?php

declare(strict_types=1);

namespace Ylema\Sites;

/** Where a site's files lie. Paths are below the site's root, with `/`, without a leading one. */
interface MediaStore
{
    /**
     * @return iterable<StoredFile>
     *
     * @throws SourceUnavailable
     */
    public function files(): iterable;

    /** @throws FileMissing|SourceUnavailable */
    public function read(string $path): string;

    public function exists(string $path): bool;

    /**
     * Writes beside the file and renames over it, so that a visitor gets the old bytes or the new, never half.
     *
     * @throws SourceUnavailable when the store refuses; the old bytes are still there then
     */
    public function write(string $path, string $bytes): void;

    /** @throws SourceUnavailable */
    public function delete(string $path): void;
}
