<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * One notation that wraps a value: an html attribute, a css string, a json string.
 *
 * A layer can write a value back into its own notation, changing nothing but the token.
 */
interface Layer
{
    public function notation(): Notation;

    /**
     * Writes $value so that this layer's reader would read it back unchanged.
     *
     * @throws CannotEncode when the notation has no way to say this value at this place
     */
    public function encode(string $value): string;
}
