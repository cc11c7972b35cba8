<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** The port through which a proposal tries addresses at the public site. */
interface AddressTrial
{
    /** Whether a page answers at an address below the site's root, and shows these words. */
    public function shows(string $address, string $words): bool;

    /** @return list<string> addresses of pages below the root that the site's first pages and its sitemap link to */
    public function known(): array;
}
