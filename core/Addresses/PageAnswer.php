<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/** What the public site answered when it was asked for an address. */
final readonly class PageAnswer
{
    /**
     * @param  int  $status of the last answer, redirects followed (RFC 9110, 15)
     * @param  string|null  $leadsTo where redirects led in the end, as PageIndex says addresses; null without one
     */
    public function __construct(public int $status, public ?string $leadsTo = null)
    {
    }

    public function isServed(): bool
    {
        return $this->status >= 200 && $this->status < 300;
    }

    /** Whether the site says that there is nothing, rather than that it cannot say now. */
    public function isGone(): bool
    {
        return in_array($this->status, [404, 410], true);
    }
}
