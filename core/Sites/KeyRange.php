<?php

declare(strict_types=1);

namespace Ylema\Sites;

/** Records with a key after `after` (null: from the first) up to and including `to` (null: to the last). */
final readonly class KeyRange
{
    public function __construct(public ?string $after, public ?string $to)
    {
    }
}
