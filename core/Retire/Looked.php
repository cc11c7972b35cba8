<?php

declare(strict_types=1);

namespace Ylema\Retire;

/** When a site was looked at, and in which ways; the same for all of its files. Times in seconds since 1970. */
final readonly class Looked
{
    /**
     * @param  int|null  $read when its content was last read as a whole; null for never
     * @param  int  $unread records, columns and files that could not be read then
     * @param  bool  $knowsCode whether the field map says where its own code is
     * @param  int  $codeFiles how many files of code were read
     * @param  int  $leftCode how many of them, or patterns, folders and links of the map, nobody could look into
     * @param  string  $whyCode the reason for one of them: `theme: It is a link …`
     * @param  int|null  $tables how many tables were searched beside the field map; null where none ever were
     * @param  int  $files and how many files
     * @param  int  $left how much beside the map nobody could look into
     * @param  string  $why the reason for one of them
     * @param  int|null  $surveyed when a survey of all its pages ended
     * @param  int|null  $logFrom since when access logs are known without a gap
     * @param  int|null  $logUntil until when
     * @param  string|null  $logDoubt why the logs that were read may be of something else, where none counts
     */
    public function __construct(
        public int $now,
        public ?int $read = null,
        public int $unread = 0,
        public bool $knowsCode = false,
        public int $codeFiles = 0,
        public int $leftCode = 0,
        public string $whyCode = '',
        public ?int $tables = null,
        public int $files = 0,
        public int $left = 0,
        public string $why = '',
        public ?int $surveyed = null,
        public ?int $logFrom = null,
        public ?int $logUntil = null,
        public ?string $logDoubt = null,
    ) {
    }
}
