<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Step;
use Ylema\Plan\StepKind;

/** A resting file goes into a bag of the archive; it rests on until the bag is sealed. */
final readonly class ArchiveFile implements Step
{
    use Bagged;

    public function kind(): StepKind
    {
        return StepKind::ArchiveFile;
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
        return new UnarchiveFile($this->bag, $this->payload, $this->path, $this->file, $this->until, $this->with);
    }
}
