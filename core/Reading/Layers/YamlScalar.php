<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/**
 * A one-line scalar of YAML, in a file or in front matter: plain, single-quoted or double-quoted (YAML 1.2.2, 7.3), or
 * part of a block scalar (8.1).
 */
final readonly class YamlScalar implements Layer
{
    /** @param  string  $quote `"`, `'`, `|` in a block scalar, or empty for a plain one */
    public function __construct(private string $quote)
    {
    }

    public function notation(): Notation
    {
        return Notation::Yaml;
    }

    public function encode(string $value): string
    {
        if (preg_match('~[\x00-\x1F\x7F]~', $value) === 1) {
            throw CannotEncode::in('front matter', $value, 'it holds a line break or a control character');
        }
        if ($this->quote === '' && preg_match('~^[\s!&*|>@`%"\'#,\[\]{}?:-]|\s$|: |\s#|:$|[,\[\]{}]~', $value) === 1) {
            throw CannotEncode::in('a plain front-matter value', $value, 'it would need quotes there');
        }

        return match ($this->quote) {
            '"' => strtr($value, ['\\' => '\\\\', '"' => '\\"']),
            "'" => str_replace("'", "''", $value),
            default => $value,
        };
    }
}
