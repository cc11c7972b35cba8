<?php

declare(strict_types=1);

namespace App\Health;

/** Something that whoever looks after an installation should see to, and what to do about it. */
final readonly class Trouble
{
    /** @param  bool  $isUrgent whether Ylema cannot do its work because of it, or soon will not */
    public function __construct(public string $about, public string $words, public bool $isUrgent)
    {
    }
}
