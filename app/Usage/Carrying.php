<?php

declare(strict_types=1);

namespace App\Usage;

/**
 * Records that show others, as the index keeps it: a record that names what it shows is a reference like any other; one
 * that is named by what it shows is kept with that one, and names it as its owner. The view `carrying` has both.
 */
final class Carrying
{
    /** What a reference names that tells whose part its own record is. */
    public const OWNER = 'owner';
}
