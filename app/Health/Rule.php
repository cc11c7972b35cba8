<?php

declare(strict_types=1);

namespace App\Health;

use Closure;

/** How long one kind of thing is kept, and how what is over goes. */
final readonly class Rule
{
    /**
     * @param  string  $what in plain words
     * @param  string  $until when it goes, in plain words
     * @param  Closure(): int  $count how many there are
     * @param  Closure(): int  $clear takes away what is over; how many went
     */
    public function __construct(
        public string $what,
        public string $until,
        public Closure $count,
        public Closure $clear,
    ) {
    }
}
