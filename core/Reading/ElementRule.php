<?php

declare(strict_types=1);

namespace Ylema\Reading;

/** What an attribute of one of the site's own elements or tokens holds. */
final readonly class ElementRule
{
    /**
     * @param  string|null  $role the role it plays; `element[attribute]` where none is given
     * @param  string|null  $target the kind of record that a key names
     */
    public function __construct(
        public Notation $notation,
        public ?string $role = null,
        public ?string $target = null,
    ) {
    }
}
