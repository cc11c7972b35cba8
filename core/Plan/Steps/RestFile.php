<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Mark;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;

/** A file is laid to rest: out of the public tree, its bytes kept whole until its day comes. */
final readonly class RestFile implements Step
{
    use LaidAside;

    public function kind(): StepKind
    {
        return StepKind::RestFile;
    }

    public function gives(): string
    {
        return Mark::rest($this->path);
    }

    public function needs(): array
    {
        return [];
    }

    public function inverse(): Step
    {
        return new WakeFile($this->path, $this->file, $this->until, $this->with, $this->at);
    }
}
