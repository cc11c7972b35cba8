<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** Text in the encoding that it says it is in. */
final readonly class EncodedText implements Layer
{
    public function __construct(private Charset $charset)
    {
    }

    public function notation(): Notation
    {
        return Notation::Text;
    }

    public function encode(string $value): string
    {
        $written = '';
        foreach (mb_str_split($value, 1, 'UTF-8') as $character) {
            $isPlain = strlen($character) === 1 && ! $this->charset->isWide();
            $written .= $isPlain ? $character : $this->charset->encode($character)
                ?? throw CannotEncode::in(
                    "text in {$this->charset->label}", $value,
                    "that encoding has no \"$character\"; write the address percent-encoded",
                );
        }

        return $written;
    }
}
