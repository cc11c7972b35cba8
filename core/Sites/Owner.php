<?php

declare(strict_types=1);

namespace Ylema\Sites;

/** A record that shows another as a part of itself, named by that other one: a line of a gallery names its gallery. */
final readonly class Owner
{
    /** @param  string  $field the column that names it */
    public function __construct(public string $field, public string $kind, public string $key)
    {
    }
}
