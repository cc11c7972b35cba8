<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/** To whom an address belongs, seen from one site. */
enum Whose: string
{
    /** The site's address now, or an alias of it (with or without `www.`, either scheme). */
    case Own = 'own';

    /** An address that the site had before a move. */
    case Former = 'former';

    case Foreign = 'foreign';

    /** `data:`, `blob:`, `mailto:` and the like: nothing is fetched from a host. */
    case None = 'none';
}
