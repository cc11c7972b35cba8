<?php

declare(strict_types=1);

namespace Ylema\Sites;

/** A row of the site's own table of redirects, as it is written there. */
final readonly class SourceRedirect
{
    /**
     * @param  string  $from a path, or a whole address
     * @param  string  $to likewise
     * @param  int  $status 301, 302, 307, 308 or 410 (RFC 9110, 15.4 and 15.5.11)
     */
    public function __construct(public string $from, public string $to, public int $status = 301)
    {
    }
}
