<?php

declare(strict_types=1);

namespace Ylema\Imaging\Svg;

/**
 * Why a drawing is not taken: what is in it, in words that follow "contains".
 *
 * @internal
 */
final class Refusal extends \RuntimeException
{
    public function __construct(string $what, public readonly int $atLine)
    {
        parent::__construct($what);
    }
}
