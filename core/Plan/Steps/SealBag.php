<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Step;
use Ylema\Plan\StepKind;

/** A bag gets its manifests, is read back whole, and only then do its files rest no more. */
final readonly class SealBag implements Step
{
    public function __construct(public string $bag)
    {
    }

    public function kind(): StepKind
    {
        return StepKind::SealBag;
    }

    public function title(): string
    {
        return $this->bag;
    }

    public function inverse(): Step
    {
        return new UnsealBag($this->bag);
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
