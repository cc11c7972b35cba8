<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** An attribute that a tag does not have yet, written whole: ` alt="…"`. */
final readonly class NewAttribute implements Layer
{
    private HtmlAttribute $value;

    public function __construct(private string $name)
    {
        $this->value = new HtmlAttribute('"');
    }

    public function notation(): Notation
    {
        return Notation::Html;
    }

    public function encode(string $value): string
    {
        return ' '.$this->name.'="'.$this->value->encode($value).'"';
    }
}
