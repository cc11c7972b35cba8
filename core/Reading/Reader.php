<?php

declare(strict_types=1);

namespace Ylema\Reading;

/** Reads one notation. A reader never throws for bad content: it reports a problem and goes on, or stops. */
interface Reader
{
    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void;
}
