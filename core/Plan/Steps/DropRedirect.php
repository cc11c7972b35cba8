<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Mark;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;

/** A redirect is taken back. */
final readonly class DropRedirect implements Step
{
    use SendsOn;

    public function kind(): StepKind
    {
        return StepKind::DropRedirect;
    }

    public function gives(): ?string
    {
        return null;
    }

    public function needs(): array
    {
        return Mark::files([$this->from, ...$this->file === null ? [] : [$this->file]]);
    }

    public function inverse(): Step
    {
        return new Redirect($this->from, $this->to, $this->status);
    }
}
