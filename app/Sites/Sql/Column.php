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
     * @param  bool  $isFloating whether it holds numbers that are rounded
     */
    public function __construct(
        public string $type,
        public bool $isBinary = false,
        public bool $isNumber = false,
        public bool $fillsItself = false,
        public bool $stampsItself = false,
        public bool $isFloating = false,
    ) {
    }

    /** Whether its type leaves no room for a name: numbers, moments, yes and no. */
    public function isWordless(): bool
    {
        return $this->isNumber || $this->isFloating || preg_match(
            '~^(?:numeric|decimal|dec|number|money|bool|boolean|date|datetime|time|timestamp|year|interval|tsvector|bit'
                .'|xid|oid|point|line|lseg|box|path|polygon|circle|geometry)\b~i',
            $this->type,
        ) === 1;
    }

    /** Whether a text can be a key of this column at all. */
    public function canHold(string $key): bool
    {
        return match (true) {
            $this->isNumber => preg_match('~^-?\d{1,19}$~D', $key) === 1,
            // Bytes are said in hexadecimal digits.
            $this->isBinary => preg_match('~^(?:[0-9a-f]{2})+$~D', $key) === 1,
            default => mb_check_encoding($key, 'UTF-8') && ! str_contains($key, "\0"),
        };
    }
}
