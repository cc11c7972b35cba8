<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Mark;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;

/** A resting file comes back to its path. */
final readonly class WakeFile implements Step
{
    use LaidAside;

    public function kind(): StepKind
    {
        return StepKind::WakeFile;
    }

    public function gives(): string
    {
        return Mark::file($this->place());
    }

    public function needs(): array
    {
        return [];
    }

    public function inverse(): Step
    {
        return new RestFile($this->path, $this->file, $this->until, $this->with, $this->at);
    }
}
