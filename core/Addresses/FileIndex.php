<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/** What the resolver asks about the files of a site; each question is put for many addresses at once. */
interface FileIndex
{
    /**
     * @param  list<string>  $paths
     * @return array<string, int> those that exist, byte for byte, with their size in bytes
     */
    public function existing(array $paths): array;

    /**
     * @param  list<string>  $folds paths as Resolver::fold() makes them
     * @return array<string, list<string>> fold → files with that fold
     */
    public function folded(array $folds): array;

    /**
     * @param  list<string>  $names file names (last path segment) folded likewise
     * @return array<string, list<string>> folded name → at most a handful of files with that name
     */
    public function named(array $names): array;

    /**
     * @param  list<string>  $stems folded paths without their extension, as Resolver::stem() makes them
     * @return array<string, list<string>> stem → files that differ from each other only in their extension
     */
    public function stemmed(array $stems): array;

    /**
     * @param  list<string>  $paths of renditions, existing or not
     * @return array<string, string> path → its original, where the site's own list of media says so
     */
    public function listed(array $paths): array;

    /**
     * @param  list<string>  $paths where files were that are there no more
     * @return array<string, list<string>> path → at most a handful of files that have the bytes which that file had
     */
    public function sameBytes(array $paths): array;
}
