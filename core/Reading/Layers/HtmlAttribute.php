<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** An attribute value in markup; keeps the quote style it was found in (HTML Standard, 13.2.5.36–38). */
final readonly class HtmlAttribute implements Layer
{
    /** @param  string  $quote `"`, `'`, or empty for an unquoted value */
    public function __construct(private string $quote)
    {
    }

    public function notation(): Notation
    {
        return Notation::Html;
    }

    public function encode(string $value): string
    {
        if (str_contains($value, "\0")) {
            throw CannotEncode::in('an html attribute', $value, 'markup has no way to write a NUL');
        }
        // Only an ampersand that a browser would take for a character reference needs one itself (13.2.5.72–73);
        // at the very end it might meet letters that follow in the same attribute.
        $value = preg_replace('~&(?=[A-Za-z0-9#]|$)~', '&amp;', $value) ?? throw CannotEncode::tooLong($value);
        // Markup turns a bare carriage return into a line feed before it is tokenised (13.2.3.5).
        $value = str_replace("\r", '&#13;', $value);

        return match ($this->quote) {
            '"' => str_replace('"', '&quot;', $value),
            "'" => str_replace("'", '&#39;', $value),
            default => $value === '' ? '""' : strtr($value, [
                ' ' => '&#32;', "\t" => '&#9;', "\n" => '&#10;', "\f" => '&#12;',
                '"' => '&quot;', "'" => '&#39;', '>' => '&gt;', '<' => '&lt;', '=' => '&#61;', '`' => '&#96;',
            ]),
        };
    }
}
