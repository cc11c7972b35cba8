<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** A field map that was worked out from a database, with what speaks for each part of it. */
final readonly class Proposal
{
    /**
     * @param  array<string, mixed>  $map as its YAML says it
     * @param  array<string, string>  $evidence place of the map → what speaks for it
     * @param  list<Question>  $questions
     * @param  array<string, string>  $leftOut table → why it is not read
     * @param  list<string>  $former addresses that the site had before, besides those that were told
     * @param  list<string>  $aliases addresses that it has as well
     */
    public function __construct(
        public array $map,
        public array $evidence,
        public array $questions,
        public array $leftOut,
        public array $former = [],
        public array $aliases = [],
    ) {
    }
}
