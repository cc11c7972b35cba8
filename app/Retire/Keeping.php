<?php

declare(strict_types=1);

namespace App\Retire;

use App\Models\Site;

/** How a site keeps what is retired, as its owner said it. */
final readonly class Keeping
{
    private const DAYS = 60;

    /**
     * @param  int  $days that a file rests before it may go to the archive
     * @param  bool  $leavesRows whether rows of the site's own list of media stay where they are
     * @param  bool  $restores whether a file that is called comes back by itself
     * @param  string|null  $logs a folder of this machine that is watched for access logs
     * @param  string|null  $bags a folder of this machine for the archive; null for Ylema's own
     * @param  list<int>|null  $widths of the renditions that a new picture gets; null for those that are usual here
     */
    private function __construct(
        public int $days,
        public bool $leavesRows,
        public bool $restores,
        public ?string $logs,
        public ?string $bags,
        public ?array $widths,
    ) {
    }

    public static function of(Site $site): self
    {
        $said = $site->keeping;
        $text = static fn (string $key): ?string => is_string($said[$key] ?? null) && $said[$key] !== ''
            ? $said[$key]
            : null;
        $widths = $said['widths'] ?? null;

        return new self(
            is_int($said['days'] ?? null) ? $said['days'] : self::DAYS,
            ($said['leaves_rows'] ?? false) === true,
            ($said['restores'] ?? false) === true,
            $text('logs'),
            $text('bags'),
            is_array($widths) ? array_values(array_filter($widths, is_int(...))) : null,
        );
    }
}
