<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** The text of a `style` or `script` element, where no character is escaped (HTML Standard, 13.2.5.2). */
final readonly class RawText implements Layer
{
    public function __construct(private string $element)
    {
    }

    public function notation(): Notation
    {
        return Notation::Html;
    }

    public function encode(string $value): string
    {
        if (preg_match('~</'.$this->element.'|<!--~i', $value) === 1) {
            throw CannotEncode::in("a {$this->element} element", $value, 'it would end the element early');
        }

        return $value;
    }
}
