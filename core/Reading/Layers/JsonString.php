<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** A json string (RFC 8259, section 7); keeps the document's habit for `/` and for characters beyond ASCII. */
final readonly class JsonString implements Layer
{
    public function __construct(private bool $escapesSlash, private bool $escapesNonAscii)
    {
    }

    public function notation(): Notation
    {
        return Notation::Json;
    }

    public function encode(string $value): string
    {
        $flags = ($this->escapesSlash ? 0 : JSON_UNESCAPED_SLASHES)
            | ($this->escapesNonAscii ? 0 : JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_LINE_TERMINATORS);
        $json = json_encode($value, $flags);
        if ($json === false) {
            throw CannotEncode::in('a json string', $value, 'it is not UTF-8');
        }

        return substr($json, 1, -1);
    }
}
