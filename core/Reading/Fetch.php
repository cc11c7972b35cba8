<?php

declare(strict_types=1);

namespace Ylema\Reading;

/** Whether a browser that shows the page fetches what the reference names. */
enum Fetch: string
{
    /** By itself, whenever the page is shown. */
    case Always = 'always';

    /** By itself, but only on a condition: a media query, a candidate list, a preload, lazy loading, script. */
    case OnCondition = 'on-condition';

    /** Only when the visitor follows it. */
    case WhenFollowed = 'when-followed';

    /** Never by the browser; the site's own code follows it when it builds the page. */
    case BySite = 'by-site';

    /** By nobody: it stands there as plain words. */
    case Never = 'never';
}
