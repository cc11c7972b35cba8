<?php

declare(strict_types=1);

namespace Ylema;

use Throwable;

/**
 * What all exceptions of core have in common: the message is a sentence for a person that says what to do, and what it
 * speaks of (what, where, why) can be read from their properties.
 */
interface Failure extends Throwable
{
}
