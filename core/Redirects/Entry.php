<?php

declare(strict_types=1);

namespace Ylema\Redirects;

/** One address whose visitors are sent on. */
final readonly class Entry
{
    /** The statuses that a redirect may have, and the one that says that nothing is there any more. */
    public const STATUSES = [301, 302, 307, 308, 410];

    /**
     * @param  string  $from path below the root, decoded, without a slash at either end, and its query (see
     *       PageResolver::key())
     * @param  string  $to root-relative or whole address; empty where nothing takes its place
     * @param  int  $status one of STATUSES (RFC 9110, 15.4 and 15.5.11)
     */
    public function __construct(public string $from, public string $to, public int $status = 301)
    {
    }

    public function isGone(): bool
    {
        return $this->status === 410;
    }
}
