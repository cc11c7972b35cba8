<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** What a plan says of itself, known when its last step is: all that an interface needs to show any plan. */
final readonly class Outline
{
    /**
     * @param  string  $title what it is about, in a few words
     * @param  string  $sentence what it does, with its counts
     * @param  list<string>  $notes what somebody should know before applying it
     * @param  list<Picture>  $pictures what gives way and what comes
     * @param  list<ShownBox>  $boxes in which places show them, those of most places first
     * @param  string|null  $bench where in the interface it can be made otherwise, below the site: `media/12/swap`
     */
    public function __construct(
        public string $title,
        public string $sentence,
        public Expectation $expectation = new Expectation(),
        public array $notes = [],
        public array $pictures = [],
        public ?string $bench = null,
        public array $boxes = [],
    ) {
    }
}
