<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Sites\FileState;

/** Takes away a file that a plan itself made; its bytes are kept. */
final readonly class DeleteFile implements Step
{
    public function __construct(public string $path, public FileState $was)
    {
    }

    public function kind(): StepKind
    {
        return StepKind::DeleteFile;
    }

    public function title(): string
    {
        return $this->path;
    }

    public function inverse(): Step
    {
        return new WriteFile($this->path, null, $this->was);
    }

    public function gives(): ?string
    {
        return null;
    }

    public function needs(): array
    {
        return [];
    }

    public function toArray(): array
    {
        return ['path' => $this->path, 'was' => $this->was->toArray()];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        return new self(
            is_string($data['path'] ?? null) ? $data['path'] : '',
            FileState::fromArray(is_array($data['was'] ?? null) ? $data['was'] : []),
        );
    }
}
