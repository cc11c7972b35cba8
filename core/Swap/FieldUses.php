<?php

declare(strict_types=1);

namespace Ylema\Swap;

use Ylema\Reading\Reference;
use Ylema\Sites\SourceField;

/** The places of one field that are to be swapped: each reference with the file that it means now (null for an id). */
final readonly class FieldUses
{
    /** @param  list<array{Reference, string|null}>  $uses */
    public function __construct(public SourceField $field, public array $uses)
    {
    }
}
