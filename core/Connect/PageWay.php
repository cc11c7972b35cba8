<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** At which address a visitor meets the rows of a table, and what speaks for it. */
final readonly class PageWay
{
    /**
     * @param  string  $address below the root, with columns in braces
     * @param  array<string, array<string, string>>  $spell column → value → how it stands in the address
     * @param  list<string>  $joins tables whose columns stand in it
     * @param  array<string, string>  $dates column → how its moments are written, where that is not as dates are
     * @param  string|null  $parent the column with the number of the row above, where its address stands in this one
     * @param  list<string>  $also further addresses of the same rows, as in other languages
     */
    public function __construct(
        public string $address,
        public array $spell,
        public array $joins,
        public string $why,
        public ?Question $question,
        public array $dates = [],
        public ?string $parent = null,
        public array $also = [],
    ) {
    }
}
