<?php

declare(strict_types=1);

namespace Ylema\Reading\Around;

use Ylema\Reading\Context;

/**
 * Knows what surrounds a reference, and works it out only when somebody asks: a reading makes thousands of
 * references, and few of them are ever looked at closely.
 *
 * @internal callers see Reference::context()
 */
interface Surroundings
{
    public function document(): Document;

    /**
     * @param  int  $start  the reference's first byte in the outermost text
     * @param  int  $anchor what the reader said when it found the reference; each kind of surroundings has its own
     * @param  string|null  $path  where in a structured field
     * @param  string|null  $descriptor of a candidate
     */
    public function context(int $start, int $anchor, ?string $path, ?string $descriptor): Context;
}
