<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\JavaScript;

/**
 * What stands in brackets, or in a template's substitution, where a text is put together: its own texts are others.
 *
 * @internal
 */
final class Between
{
    public int $depth = 1;

    public function __construct(public readonly bool $isSubstitution)
    {
    }
}
