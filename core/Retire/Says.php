<?php

declare(strict_types=1);

namespace Ylema\Retire;

/** What one source says about a file going to its rest. */
enum Says: string
{
    case For = 'for';

    case Against = 'against';

    /** It was not looked at, or cannot tell. Never taken for "for". */
    case NotKnown = 'not-known';
}
