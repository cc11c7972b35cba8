<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** A column whose values are keys of another table. */
final readonly class Relation
{
    /**
     * @param  string  $why in words
     * @param  string|null  $by a column that decides which table is meant
     * @param  string|null  $word what stands there where it is this one
     * @param  bool  $isJson whether the keys stand in a list of json
     * @param  bool  $isInside whether the keys stand somewhere inside of a structured value
     * @param  string|null  $between what stands between the word and the key, where one value says both: `page/12`
     */
    public function __construct(
        public string $table,
        public string $column,
        public string $to,
        public string $key,
        public string $why,
        public ?string $by = null,
        public ?string $word = null,
        public bool $isJson = false,
        public ?string $between = null,
        public bool $isInside = false,
    ) {
    }
}
