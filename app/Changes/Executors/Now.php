<?php

declare(strict_types=1);

namespace App\Changes\Executors;

/** How the site stands to a step. */
enum Now
{
    /** As the step expects to find it. */
    case Before;

    /** As the step leaves it. */
    case After;

    /** Neither: somebody else was there. */
    case Other;
}
