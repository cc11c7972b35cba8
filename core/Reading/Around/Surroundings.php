<?php

declare(strict_types=1);

namespace Ylema\Reading\Around;

use Ylema\Reading\Context;
use Ylema\Reading\Reference;

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
     * The start tag that holds a reference, where it stands as it is in the outermost text.
     *
     * @return array{int, int}|null offset and length in bytes
     */
    public function tag(int $anchor): ?array;

    /**
     * Another attribute of the tag that holds a reference; null where the reference stands in no tag.
     *
     * @param  string  $attribute in lower case
     */
    public function beside(int $anchor, string $attribute, ?string $path): ?Reference;

    /**
     * The stretches of text that must go so that nothing is left of a reference; of a link, its words stay.
     *
     * @return list<Reference>|null the first plays the reference's part; null where its notation has no way
     */
    public function stretches(Reference $reference, int $anchor): ?array;

    /**
     * @param  int  $start  the reference's first byte in the outermost text
     * @param  int  $anchor what the reader said when it found the reference; each kind of surroundings has its own
     * @param  string|null  $path  where in a structured field
     * @param  string|null  $descriptor of a candidate
     */
    public function context(int $start, int $anchor, ?string $path, ?string $descriptor): Context;
}
