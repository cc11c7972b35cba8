<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Encoding\Windows1252;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** Text in a single-byte encoding, or UTF-8 with such bytes strewn in. */
final readonly class LegacyText implements Layer
{
    /** @param  bool  $mixed whether UTF-8 stands in the same text, which is then what is written */
    public function __construct(private bool $mixed)
    {
    }

    public function notation(): Notation
    {
        return Notation::Text;
    }

    public function encode(string $value): string
    {
        if ($this->mixed) {
            return $value;
        }
        $written = '';
        foreach (mb_str_split($value, 1, 'UTF-8') as $character) {
            $written .= strlen($character) === 1 ? $character : Windows1252::byte(mb_ord($character, 'UTF-8'))
                ?? throw CannotEncode::in(
                    'text of one byte a character', $value,
                    "that encoding has no \"$character\"; write the address percent-encoded",
                );
        }

        return $written;
    }
}
