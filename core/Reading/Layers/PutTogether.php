<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** An address that a script puts together of strings in different quotes: no single text can stand in their place. */
final readonly class PutTogether implements Layer
{
    public function notation(): Notation
    {
        return Notation::JavaScript;
    }

    public function encode(string $value): string
    {
        throw CannotEncode::in('a script', $value, 'the address is put together there of strings in different quotes');
    }
}
