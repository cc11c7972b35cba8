<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** The table that a proposal takes for the site's list of media, and how its rows say paths. */
final readonly class MediaTable
{
    /**
     * @param  string  $path with columns in braces
     * @param  int  $files how many sampled rows name a file
     * @param  int  $rows how many were sampled
     * @param  array{table: string, media: string, path: string}|null  $sizes
     * @param  array<string, array{table: string, on: array<string, string>}>  $joins tables with columns of the path
     * @param  list<string>  $ownSizes paths of smaller pictures in columns of the same rows
     */
    public function __construct(
        public TableProfile $table,
        public string $path,
        public int $files,
        public int $rows,
        public ?array $sizes = null,
        public array $joins = [],
        public array $ownSizes = [],
    ) {
    }
}
