<?php

declare(strict_types=1);

namespace App\Sites\Sql;

/** A column of the source, as its database describes it. */
final readonly class Column
{
    /**
     * @param  string  $type as SQL writes it, for a cast
     * @param  bool  $isBinary whether it holds bytes, not text or numbers
     * @param  bool  $isNumber whether it holds whole numbers
     * @param  bool  $fillsItself whether the database gives a value where an insert says none
     * @param  bool  $stampsItself whether the database writes it again on every update
     */
    public function __construct(
        public string $type,
        public bool $isBinary = false,
        public bool $isNumber = false,
        public bool $fillsItself = false,
        public bool $stampsItself = false,
    ) {
    }
}
