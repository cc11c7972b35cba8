<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/**
 * What the index knows about paths that no file has. See FileIndex for what each key is.
 *
 * @internal
 */
final readonly class Evidence
{
    /**
     * @param  array<string, list<string>>  $folded
     * @param  array<string, list<string>>  $named
     * @param  array<string, list<string>>  $stemmed
     * @param  array<string, string>  $listed
     * @param  array<string, list<string>>  $sameBytes
     */
    public function __construct(
        public array $folded,
        public array $named,
        public array $stemmed,
        public array $listed,
        public array $sameBytes,
    ) {
    }
}
