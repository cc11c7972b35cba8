<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** A field, or a stretch of plain text, that is the value itself: nothing is escaped, so little can be refused. */
final readonly class Plain implements Layer
{
    /** @param  string|null  $allowed a PCRE that the written value must match, where the place is picky */
    public function __construct(private Notation $notation, private ?string $allowed = null)
    {
    }

    public function notation(): Notation
    {
        return $this->notation;
    }

    public function encode(string $value): string
    {
        if ($this->allowed !== null && preg_match($this->allowed, $value) !== 1) {
            throw CannotEncode::in(
                "a {$this->notation->value} reference", $value, 'the site would not recognise it there',
            );
        }

        return $value;
    }
}
