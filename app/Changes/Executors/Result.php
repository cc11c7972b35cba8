<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use Ylema\Plan\Step;

/** What came of one step. */
final readonly class Result
{
    /**
     * @param  string|null  $why a sentence, where it was refused; nothing was written then
     * @param  Step|null  $step the step with what only carrying it out could tell, where there is something
     * @param  bool  $isChanged whether it was refused since something else is there than it expects
     * @param  int|null  $standsOn number of the later change of ours because of which it was refused
     */
    private function __construct(
        public ?string $why,
        public ?Step $step,
        public bool $isChanged = false,
        public ?int $standsOn = null,
    ) {
    }

    public static function done(?Step $step = null): self
    {
        return new self(null, $step);
    }

    public static function refused(string $why, ?int $standsOn = null): self
    {
        return new self($why, null, false, $standsOn);
    }

    public static function changed(string $why): self
    {
        return new self($why, null, true);
    }
}
