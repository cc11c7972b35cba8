<?php

declare(strict_types=1);

namespace Ylema\Retire;

/** One of several items that show the same picture. */
final readonly class Copy
{
    /**
     * @param  int  $item its number in the index
     * @param  int  $words how many of title, alt text, caption and credit it has
     * @param  bool  $isCode whether the site's own code names it, which no plan rewrites
     * @param  int  $modified seconds since 1970
     */
    public function __construct(
        public int $item,
        public string $path,
        public int $pixels,
        public int $uses,
        public int $words,
        public bool $hasRow,
        public bool $isCode,
        public int $modified,
    ) {
    }

    /** @return list<int> the higher, the rather it stays */
    public function rank(): array
    {
        return [
            $this->pixels,
            $this->isCode ? 1 : 0,
            $this->uses,
            $this->words,
            $this->hasRow ? 1 : 0,
            -$this->modified,
            -strlen($this->path),
        ];
    }
}
