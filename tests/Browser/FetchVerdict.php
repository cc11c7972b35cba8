<?php

declare(strict_types=1);

namespace Tests\Browser;

/** What came of one page before the judge. */
final readonly class FetchVerdict
{
    /**
     * @param  list<string>  $requested by the browser
     * @param  list<string>  $always what the reader says a browser fetches by itself
     * @param  list<string>  $conditional requested, where the reader says "on a condition"
     * @param  list<string>  $missed said to be fetched, but not requested
     * @param  list<string>  $unnamed requested, but not named by the reader
     * @param  list<string>  $unmapped requested files of the site that the map does not know on this page
     */
    public function __construct(
        public string $page,
        public array $requested,
        public array $always,
        public array $conditional,
        public array $missed,
        public array $unnamed,
        public array $unmapped,
    ) {
    }

    public function agrees(): bool
    {
        return $this->missed === [] && $this->unnamed === [] && $this->unmapped === [];
    }
}
