<?php

declare(strict_types=1);

namespace Ylema\Logs;

/** One request as a web server noted it down; who asked is not kept. */
final readonly class LogLine
{
    /**
     * @param  string|null  $host the name that was asked for, where the format says it
     * @param  int  $time seconds since 1970
     * @param  string  $target as in RFC 9112, 3.2: mostly a path with its query
     * @param  string  $referrer empty where none was sent, or the format has none
     * @param  string  $agent likewise
     */
    public function __construct(
        public ?string $host,
        public int $time,
        public string $method,
        public string $target,
        public int $status,
        public string $referrer,
        public string $agent,
    ) {
    }
}
