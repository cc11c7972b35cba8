<?php

declare(strict_types=1);

namespace App\Sites\Sql;

/** What kind of thing went wrong in a database. */
enum Trouble
{
    /** It does not answer, or no longer. */
    case Away;

    /** It answers, but does not let this user in. */
    case SignIn;
    case NoTable;
    case NoColumn;
    case NoRight;

    /** Anything else: this one statement was refused. */
    case Refused;
}
