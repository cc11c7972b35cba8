<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** A string literal or a template without substitutions (ECMA-262, 12.9.4 and 12.9.6). */
final readonly class JavaScriptString implements Layer
{
    /** @param  string  $quotes `"`, `'` or a backtick; several where a text is put together of strings in each */
    public function __construct(private string $quotes, private bool $escapesSlash)
    {
    }

    public function notation(): Notation
    {
        return Notation::JavaScript;
    }

    public function encode(string $value): string
    {
        $value = addcslashes($value, '\\'.$this->quotes);
        $value = strtr(
            $value,
            ["\n" => '\n', "\r" => '\r', "\u{2028}" => '\u2028', "\u{2029}" => '\u2029', "\0" => '\x00'],
        );
        if (str_contains($this->quotes, '`')) {
            $value = str_replace('${', '\${', $value);
        }

        return $this->escapesSlash ? str_replace('/', '\/', $value) : $value;
    }
}
