<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** A cell of a table in text (RFC 4180, 2): in quotes, where a quote is written twice, or as it is. */
final readonly class CsvCell implements Layer
{
    public function __construct(private bool $isQuoted, private string $separator)
    {
    }

    public function notation(): Notation
    {
        return Notation::Csv;
    }

    public function encode(string $value): string
    {
        if ($this->isQuoted) {
            return str_replace('"', '""', $value);
        }
        if (strpbrk($value, $this->separator."\"\r\n") !== false || trim($value) !== $value) {
            throw CannotEncode::in('a cell', $value, 'it would need quotes there');
        }

        return $value;
    }
}
