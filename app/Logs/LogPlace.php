<?php

declare(strict_types=1);

namespace App\Logs;

use Ylema\Logs\LogTally;

/** Which log is being read, and what of it was noted down already. */
final class LogPlace
{
    /** @var array{lines: int, broken: int, requests: int, own: int} */
    private array $noted = ['lines' => 0, 'broken' => 0, 'requests' => 0, 'own' => 0];

    /**
     * @param  string  $begins hash of its first line
     * @param  bool  $isWhole whether nobody writes it any more
     */
    public function __construct(
        public readonly int $site,
        public readonly string $name,
        public readonly string $begins,
        public readonly bool $isWhole,
    ) {
    }

    /** @return array{lines: int, broken: int, requests: int, own: int} what was counted since the last time */
    public function since(LogTally $tally): array
    {
        $now = ['lines' => $tally->lines, 'broken' => $tally->broken, 'requests' => $tally->requests];
        $now['own'] = $tally->own;
        $new = [
            'lines' => $now['lines'] - $this->noted['lines'],
            'broken' => $now['broken'] - $this->noted['broken'],
            'requests' => $now['requests'] - $this->noted['requests'],
            'own' => $now['own'] - $this->noted['own'],
        ];
        $this->noted = $now;

        return $new;
    }
}
