<?php

declare(strict_types=1);

namespace Ylema\Redirects;

/** What asking an old address showed of its redirect. */
enum Verdict: string
{
    case Right = 'right';
    /** It is not there: visitors get an error, or the old page. */
    case Missing = 'missing';
    /** It leads elsewhere than the list says. */
    case Wrong = 'wrong';
    /** It leads to an address that sends visitors on again. */
    case Chain = 'chain';
    case Loop = 'loop';
    /** It leads to an address that serves nothing. */
    case Dead = 'dead';
    /** It could not be asked. */
    case Unknown = 'unknown';
}
