<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Step;
use Ylema\Plan\StepKind;

/** The files of a sealed bag rest again, and the bag is open. */
final readonly class UnsealBag implements Step
{
    public function __construct(public string $bag)
    {
    }

    public function kind(): StepKind
    {
        return StepKind::UnsealBag;
    }

    public function title(): string
    {
        return $this->bag;
    }

    public function inverse(): Step
    {
        return new SealBag($this->bag);
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
        return ['bag' => $this->bag];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        return new self(is_string($data['bag'] ?? null) ? $data['bag'] : '');
    }
}
