<?php

declare(strict_types=1);

namespace Ylema\Net;

/** What a net brought up from one text. */
final readonly class Haul
{
    /**
     * @param  list<Mention>  $mentions in the order of their places
     * @param  string|null  $left why a part of the text was not searched, as a sentence; null where all was
     */
    public function __construct(public array $mentions, public ?string $left = null)
    {
    }
}
