<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/**
 * A string in php's serialize() format, which is preceded by its own length in bytes.
 *
 * The bytes are written as they are; the length is mended by the Rewriter, for which this layer
 * remembers where the digits stand (in the outermost text) and how many bytes they count.
 */
final readonly class SerializedString implements Layer
{
    public function __construct(
        public int $digitsStart,
        public int $digitsLength,
        public int $bytes,
    ) {
    }

    public function notation(): Notation
    {
        return Notation::PhpSerialized;
    }

    public function encode(string $value): string
    {
        return $value;
    }
}
