<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/** What the resolver asks about the files of a site; each question is put for many addresses at once. */
interface FileIndex
{
    /**
     * @param  list<string>  $paths
     * @return array<string, true> those that exist, byte for byte
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
}
