<?php

declare(strict_types=1);

namespace App\Models;

enum StepState: string
{
    /** In a plan that is not applied. */
    case Proposed = 'proposed';

    /** Not to be carried out; the planner, or a person who stopped, said so. */
    case LeftOut = 'left-out';

    /** Waits for its turn. */
    case Pending = 'pending';
    case Done = 'done';

    /** Could not be carried out; nothing of it was written. */
    case Refused = 'refused';
    case Undone = 'undone';

    /** Undo left it as it is. */
    case Kept = 'kept';
}
