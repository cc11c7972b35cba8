<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** An address in a candidate list: no spaces inside, no comma at either end (HTML Standard, 4.8.4.2.2). */
final readonly class SrcsetCandidate implements Layer
{
    public function notation(): Notation
    {
        return Notation::Srcset;
    }

    public function encode(string $value): string
    {
        $value = strtr($value, [' ' => '%20', "\t" => '%09', "\n" => '%0A', "\f" => '%0C', "\r" => '%0D']);
        if (str_starts_with($value, ',')) {
            $value = '%2C'.substr($value, 1);
        }
        if (str_ends_with($value, ',')) {
            $value = substr($value, 0, -1).'%2C';
        }

        return $value;
    }
}
