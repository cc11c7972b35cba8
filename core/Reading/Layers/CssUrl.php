<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** A css string, or the inside of an unquoted `url()` (CSS Syntax Module Level 3, 4.3.5 and 4.3.6). */
final readonly class CssUrl implements Layer
{
    /** @param  string  $quote `"`, `'`, or empty inside an unquoted `url()` */
    public function __construct(private string $quote)
    {
    }

    public function notation(): Notation
    {
        return Notation::Css;
    }

    public function encode(string $value): string
    {
        $special = $this->quote === '' ? '~[\s"\'()\\\\\x00-\x1F\x7F]~' : '~['.$this->quote.'\\\\\x00-\x1F\x7F]~';

        return preg_replace_callback($special, static function (array $match): string {
            $byte = ord($match[0]);

            // Control characters and white space are only safe as code points; the space ends the escape.
            return $byte <= 0x20 || $byte === 0x7F ? sprintf('\\%x ', $byte) : '\\'.$match[0];
        }, $value) ?? throw CannotEncode::tooLong($value);
    }
}
