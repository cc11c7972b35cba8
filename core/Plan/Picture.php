<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** A picture that stands for one side of a plan. */
final readonly class Picture
{
    /**
     * @param  string  $label `Now`, `After`
     * @param  int|null  $item the media item's number in the index; null where it is not there yet
     * @param  string  $words what stands in its place then
     * @param  KeptFile|null  $file its bytes, where the plan keeps them
     */
    public function __construct(
        public string $label,
        public ?int $item,
        public string $words,
        public ?KeptFile $file = null,
    ) {
    }
}
