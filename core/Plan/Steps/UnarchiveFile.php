<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Step;
use Ylema\Plan\StepKind;

/** A file is taken out of a bag that is not sealed, or no more; it rests. */
final readonly class UnarchiveFile implements Step
{
    use Bagged;

    public function kind(): StepKind
    {
        return StepKind::UnarchiveFile;
    }

    public function gives(): ?string
    {
        return null;
    }

    public function needs(): array
    {
        return [];
    }

    public function inverse(): Step
    {
        return new ArchiveFile($this->bag, $this->payload, $this->path, $this->file, $this->until, $this->with);
    }
}
