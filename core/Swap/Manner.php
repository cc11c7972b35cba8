<?php

declare(strict_types=1);

namespace Ylema\Swap;

/** How a swap is done: the chosen places name another file, or the files behind the same addresses get other bytes. */
enum Manner: string
{
    case NewReference = 'new-reference';
    case SameAddress = 'same-address';
}
