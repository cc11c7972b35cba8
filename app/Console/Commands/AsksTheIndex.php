<?php

declare(strict_types=1);

namespace App\Console\Commands;

/** A command whose answer comes from what a reading found: before the first one there is none. */
interface AsksTheIndex
{
}
