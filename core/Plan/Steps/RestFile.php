<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Sites\FileState;

/** A file is laid to rest: out of the public tree, its bytes kept whole until its day comes. */
final readonly class RestFile implements Step
{
    /** @param  string  $until the day from which it may go, as in ISO 8601: `2027-01-31` */
    public function __construct(public string $path, public FileState $file, public string $until)
    {
    }

    public function kind(): StepKind
    {
        return StepKind::RestFile;
    }

    public function title(): string
    {
        return $this->path;
    }

    public function inverse(): Step
    {
        return new WakeFile($this->path, $this->file, $this->until);
    }

    public function toArray(): array
    {
        return ['path' => $this->path, 'file' => $this->file->toArray(), 'until' => $this->until];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        return new self(
            is_string($data['path'] ?? null) ? $data['path'] : '',
            FileState::fromArray(is_array($data['file'] ?? null) ? $data['file'] : []),
            is_string($data['until'] ?? null) ? $data['until'] : '',
        );
    }
}
