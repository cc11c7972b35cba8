<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Addresses\PageResolver;
use Ylema\Plan\Mark;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;

/** Visitors who ask for a path are sent on to an address. */
final readonly class Redirect implements Step
{
    use SendsOn;

    public function kind(): StepKind
    {
        return StepKind::Redirect;
    }

    public function gives(): string
    {
        return Mark::redirect($this->from);
    }

    public function needs(): array
    {
        return [Mark::rest(PageResolver::path($this->from)), ...$this->file === null ? [] : [Mark::file($this->file)]];
    }

    public function inverse(): Step
    {
        return new DropRedirect($this->from, $this->to, $this->status);
    }
}
