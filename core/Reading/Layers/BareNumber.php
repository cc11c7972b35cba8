<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** A whole number outside quotes, in json or php-serialized text: only another whole number can stand there. */
final readonly class BareNumber implements Layer
{
    public function __construct(private Notation $notation)
    {
    }

    public function notation(): Notation
    {
        return $this->notation;
    }

    public function encode(string $value): string
    {
        if (preg_match('~^-?(?:0|[1-9]\d*)$~D', $value) !== 1) {
            throw CannotEncode::in(
                'a '.$this->notation->value.' number', $value, 'only a whole number can stand there',
            );
        }

        return $value;
    }
}
