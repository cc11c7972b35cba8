<?php

declare(strict_types=1);

namespace Ylema\Imaging\Whole;

/** A kind of file that says, in its own structure, where it ends. */
interface Format
{
    /** Whether nothing is missing at the end, as far as the structure tells; pixels and sounds are not decoded. */
    public function isWhole(Bytes $file): bool;
}
