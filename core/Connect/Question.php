<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** What a proposal is unsure of, and asks; its own answer holds until somebody gives another. */
final readonly class Question
{
    /**
     * @param  string  $id of the place in the map that it is about
     * @param  array<string, string>  $answers id → in words; the first is the proposal's own
     * @param  list<string>  $samples
     */
    public function __construct(
        public string $id,
        public string $words,
        public array $answers,
        public array $samples,
    ) {
    }
}
