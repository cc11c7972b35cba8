<?php

declare(strict_types=1);

namespace App\Models;

enum PlanState: string
{
    /** A worker is making it. */
    case Making = 'making';
    case Open = 'open';

    /** It could not be made; its problem says why. */
    case Refused = 'refused';
    case Applied = 'applied';

    /** Given up, or made again. */
    case Dropped = 'dropped';
}
