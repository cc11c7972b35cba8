<?php

declare(strict_types=1);

namespace App\Sites;

/** A source whose records are files, which name each other as seen from where they lie. */
interface NamesFiles
{
    /**
     * The key of the record that a file means by a path: from the root where it begins with a slash, else from its own
     * folder, and where nothing lies there from the root (server-side includes; templates of most languages).
     *
     * @param  string  $from the key of the record that says it
     * @return string|null null where no such file is a record
     */
    public function named(string $from, string $said): ?string;
}
