<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** A string in TOML, basic or literal, of one line or several (TOML 1.0.0, "String"). */
final readonly class TomlString implements Layer
{
    /** @param  string  $quote `"`, `'`, or three of either */
    public function __construct(private string $quote)
    {
    }

    public function notation(): Notation
    {
        return Notation::Markdown;
    }

    public function encode(string $value): string
    {
        if ($this->quote[0] === '"') {
            return preg_replace_callback(
                '~[\\\\"\x00-\x1F\x7F]~',
                static fn (array $m): string => in_array($m[0], ['\\', '"'], true)
                    ? '\\'.$m[0]
                    : sprintf('\\u%04X', ord($m[0])),
                $value,
            ) ?? throw CannotEncode::tooLong($value);
        }
        if (preg_match("~['\\x00-\\x1F\\x7F]~", $value) === 1) {
            throw CannotEncode::in('a literal string of TOML', $value, 'no character is escaped there');
        }

        return $value;
    }
}
