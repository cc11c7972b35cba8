<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Mark;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Sites\FileState;

/** A file goes to another path, where nothing lies yet. */
final readonly class MoveFile implements Step
{
    public function __construct(public string $from, public string $to, public FileState $file)
    {
    }

    public function kind(): StepKind
    {
        return StepKind::MoveFile;
    }

    public function title(): string
    {
        return $this->to;
    }

    public function inverse(): Step
    {
        return new self($this->to, $this->from, $this->file);
    }

    public function gives(): string
    {
        return Mark::file($this->to);
    }

    public function needs(): array
    {
        return [Mark::redirect($this->from)];
    }

    public function toArray(): array
    {
        return ['from' => $this->from, 'to' => $this->to, 'file' => $this->file->toArray()];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        return new self(
            is_string($data['from'] ?? null) ? $data['from'] : '',
            is_string($data['to'] ?? null) ? $data['to'] : '',
            FileState::fromArray(is_array($data['file'] ?? null) ? $data['file'] : []),
        );
    }
}
