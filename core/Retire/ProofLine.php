<?php

declare(strict_types=1);

namespace Ylema\Retire;

/** What one source says, when it was looked at, and how much that weighs. */
final readonly class ProofLine
{
    /**
     * @param  int|null  $at when it was looked at, in seconds since 1970
     * @param  Verdict  $leaves the best that a sheet with this line can come to
     */
    public function __construct(
        public ProofSource $source,
        public Says $says,
        public string $sentence,
        public ?int $at,
        public Verdict $leaves,
    ) {
    }
}
