<?php

declare(strict_types=1);

namespace Ylema\Plan;

/**
 * A place that a person chose, named so that it is found again after the site was read anew: the nth reference to the
 * item
 * in a field of a record.
 */
final readonly class Place
{
    /** @param  int  $nth from 1 */
    public function __construct(public string $kind, public string $key, public string $field, public int $nth)
    {
    }
}
