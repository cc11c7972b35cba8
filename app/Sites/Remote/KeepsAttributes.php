<?php

declare(strict_types=1);

namespace App\Sites\Remote;

use App\Bytes\Attributes;

/** Files on another machine that have a mode and an owner there, and a time that can be set. */
interface KeepsAttributes
{
    /** @return Attributes|null of what lies there; null where nothing does */
    public function attributes(string $path): ?Attributes;

    /** As far as its user may. */
    public function putOn(string $path, Attributes $as): void;
}
