<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** Stands for a value where a place shall have none: what shows it goes, and of a link the words stay. */
enum TakenOut
{
    case Whole;
}
